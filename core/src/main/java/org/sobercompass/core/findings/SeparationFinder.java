package org.sobercompass.core.findings;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.function.Consumer;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.Asker;
import org.sobercompass.core.access.Bulk;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.access.Words;
import org.sobercompass.core.findings.Finding.Evidence;
import org.sobercompass.core.findings.SeparationRule.Permission;
import org.sobercompass.core.key.Key;
import org.sobercompass.core.key.KeyKind;
import org.sobercompass.core.system.Standing;

/**
 * Separation of duties, per account, anywhere in the trees. One sweep tests all rules: for each
 * rule and side the rights of each system as one set of bits. An account that is blocked is no
 * present conflict.
 */
final class SeparationFinder {
  private final FindingContext context;
  private final AccessModel model;
  private final List<SeparationRule> rules;
  private final SideTest[][] testsBySystem;

  /** The rights of one system on one side of one rule. */
  private record SideTest(int rule, int side, long[] bits) {}

  /** An account and the rule it breaks. */
  private record Hit(int account, int rule) {}

  SeparationFinder(FindingContext context, List<SeparationRule> rules) {
    this.context = context;
    this.model = context.model;
    this.rules = rules;
    List<List<SideTest>> tests = new ArrayList<>();
    for (SystemView view : model.systems()) {
      tests.add(tests(view));
    }
    testsBySystem = tests.stream().map(t -> t.toArray(SideTest[]::new)).toArray(SideTest[][]::new);
  }

  private List<SideTest> tests(SystemView view) {
    List<SideTest> tests = new ArrayList<>();
    for (int r = 0; r < rules.size(); r++) {
      List<List<Permission>> sides = rules.get(r).sides();
      for (int s = 0; s < sides.size(); s++) {
        long[] bits = new long[view.rights().words()];
        for (Permission permission : sides.get(s)) {
          if (permission.system().equals(view.id())) {
            bits[permission.right() >> 6] |= 1L << permission.right();
          }
        }
        if (java.util.Arrays.stream(bits).anyMatch(w -> w != 0)) {
          tests.add(new SideTest(r, s, bits));
        }
      }
    }
    return tests;
  }

  void find(Consumer<Finding> out) {
    if (rules.isEmpty()) {
      return;
    }
    List<Hit> hits = hits();
    Map<String, Draft> drafts = new TreeMap<>(Key::compareUtf8);
    for (Hit hit : hits) {
      Cause cause = cause(hit);
      String id = rules.get(hit.rule).id() + " " + cause.key.text();
      drafts.computeIfAbsent(id, i -> new Draft(hit.rule, cause)).accounts.add(hit.account);
    }
    drafts.values().forEach(draft -> out.accept(finding(draft)));
  }

  private List<Hit> hits() {
    List<Hit> all = new ArrayList<>();
    Bulk bulk = model.bulk();
    Bulk.TrusteeIndex index = bulk.trusteeIndex();
    bulk.inOrder((asker, range) -> hits(asker, range, index), all::addAll);
    return all;
  }

  private List<Hit> hits(Asker asker, Bulk.Range range, Bulk.TrusteeIndex index) {
    List<Hit> hits = new ArrayList<>();
    Map<Integer, Long> sides = new HashMap<>();
    int[] current = {-1};
    Bulk.sweep(
        asker,
        range,
        index,
        (account, view, who) -> {
          if (account != current[0]) {
            close(current[0], sides, hits);
            current[0] = account;
          }
          SideTest[] tests = testsBySystem[view.number()];
          if (tests.length > 0) {
            long[] union = new long[view.rights().words()];
            view.decider().sweep(who, (node, below, count, yes, perhaps) -> or(union, yes));
            test(asker, account, view, union, tests, sides);
          }
        });
    close(current[0], sides, hits);
    return hits;
  }

  private static void or(long[] into, long[] bits) {
    for (int w = 0; w < into.length; w++) {
      into[w] |= bits[w];
    }
  }

  private static void test(
      Asker asker,
      int account,
      SystemView view,
      long[] union,
      SideTest[] tests,
      Map<Integer, Long> sides) {
    boolean usable = false;
    for (SideTest test : tests) {
      if (meets(union, test.bits)) {
        usable = usable || asker.standing(view, account).state() == Standing.State.USABLE;
        if (!usable) {
          return;
        }
        sides.merge(test.rule, 1L << test.side, (a, b) -> a | b);
      }
    }
  }

  private static boolean meets(long[] a, long[] b) {
    for (int w = 0; w < a.length; w++) {
      if ((a[w] & b[w]) != 0) {
        return true;
      }
    }
    return false;
  }

  private void close(int account, Map<Integer, Long> sides, List<Hit> hits) {
    sides.entrySet().stream()
        .filter(e -> Long.bitCount(e.getValue()) >= rules.get(e.getKey()).atLeast())
        .map(Map.Entry::getKey)
        .sorted()
        .forEach(rule -> hits.add(new Hit(account, rule)));
    sides.clear();
  }

  private record Cause(Key key, String words, int group) {}

  private static final class Draft {
    final int rule;
    final Cause cause;
    final List<Integer> accounts = new ArrayList<>();

    Draft(int rule, Cause cause) {
      this.rule = rule;
      this.cause = cause;
    }
  }

  /** The most general cause: one role with enough sides, else one group, else the account. */
  private Cause cause(Hit hit) {
    SeparationRule rule = rules.get(hit.rule);
    SeparationCauses causes = new SeparationCauses(context, rule, hit.account);
    Optional<SeparationCauses.RoleCause> role = causes.role();
    if (role.isPresent()) {
      SystemView view = role.get().view();
      String name = view.system().roles().get(role.get().role()).name();
      String id = view.system().roles().get(role.get().role()).id();
      return new Cause(
          new Key(KeyKind.ROLE, view.id(), id),
          "the role " + name + " of " + view.system().name() + " has both by itself",
          -1);
    }
    Optional<Integer> group = causes.group();
    if (group.isPresent()) {
      return new Cause(
          context.facts.key(group.get()),
          "every member of " + context.facts.label(group.get()) + " gets both",
          group.get());
    }
    return new Cause(context.facts.key(hit.account), "it comes together in this account only", -1);
  }

  private Finding finding(Draft draft) {
    SeparationRule rule = rules.get(draft.rule);
    int first = draft.accounts.get(0);
    List<String> why = new ArrayList<>();
    why.add("the rule " + rule.id() + " says " + rule.weight().word());
    why.add(
        FindingContext.count(draft.accounts.size(), "account is", "accounts are") + " concerned");
    String who =
        draft.accounts.size() == 1
            ? Words.subject(context.facts, first) + " holds"
            : draft.accounts.size() + " accounts hold";
    List<Evidence> evidence = new ArrayList<>();
    for (int i = 0; i < Math.min(FindingContext.SHOWN, draft.accounts.size()); i++) {
      evidence.addAll(evidence(rule, draft.accounts.get(i)));
    }
    return new Finding(
        FindingKind.DUTIES_NOT_SEPARATED,
        rule.id(),
        draft.cause.key,
        rule.weight(),
        why,
        who + " what should be kept apart: " + rule.name() + "; " + draft.cause.words,
        "",
        context.keys(draft.accounts),
        evidence,
        advice(draft),
        List.of());
  }

  private String advice(Draft draft) {
    if (draft.cause.key.kind() == KeyKind.ROLE) {
      return "split the role, so that each part can be given to somebody else";
    }
    return draft.cause.group >= 0
        ? "take one side away from the group " + context.facts.label(draft.cause.group)
        : "take one side away from the account: end one of the routes below";
  }

  private List<Evidence> evidence(SeparationRule rule, int account) {
    Map<Integer, Evidence> bySide = new LinkedHashMap<>();
    for (int side = 0; side < rule.sides().size(); side++) {
      for (Permission permission : rule.sides().get(side)) {
        Optional<Evidence> route =
            model
                .system(permission.system())
                .flatMap(view -> context.route(view, account, permission.right()));
        if (route.isPresent()) {
          bySide.put(side, route.get());
          break;
        }
      }
    }
    return List.copyOf(bySide.values());
  }
}
