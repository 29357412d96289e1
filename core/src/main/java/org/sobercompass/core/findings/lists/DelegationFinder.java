package org.sobercompass.core.findings.lists;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.EnumSet;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.function.Consumer;
import org.jspecify.annotations.Nullable;
import org.sobercompass.core.access.Words;
import org.sobercompass.core.admin.Powers;
import org.sobercompass.core.delegation.Delegation;
import org.sobercompass.core.delegation.DirectoryTree;
import org.sobercompass.core.delegation.Origin;
import org.sobercompass.core.delegation.TrusteeKind;
import org.sobercompass.core.delegation.TrusteeNames;
import org.sobercompass.core.findings.Entrusted;
import org.sobercompass.core.findings.Finder;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.core.findings.Finding.Evidence;
import org.sobercompass.core.findings.FindingContext;
import org.sobercompass.core.findings.FindingKind;
import org.sobercompass.core.findings.ObjectKeys;
import org.sobercompass.core.findings.Weight;
import org.sobercompass.core.key.Key;
import org.sobercompass.core.key.KeyKind;
import org.sobercompass.core.membership.GroupSizes;
import org.sobercompass.core.system.Change;

/**
 * What was delegated in the lists of directories, and should not have been: to a person, to
 * everyone, to very broad groups or to groups with nobody in them, to somebody who does not exist,
 * or without support from above. One trustee is one finding, whatever the number of objects: those
 * are its subjects. Defaults, what was there from the beginning and what came from above are no
 * delegations. O(objects).
 */
public final class DelegationFinder implements Finder {
  /** What it looks for. */
  public static final Set<FindingKind> KINDS =
      EnumSet.of(
          FindingKind.ASSIGNED_TO_EVERYONE,
          FindingKind.ASSIGNED_TO_LARGE_GROUP,
          FindingKind.ASSIGNED_TO_EMPTY_GROUP,
          FindingKind.DIRECT_ASSIGNMENT,
          FindingKind.UNRESOLVED_TRUSTEE,
          FindingKind.UNSUPPORTED_INHERITANCE);

  private static final int FEW = 10;
  private static final int FIRST_OWN_ID = 1000;

  private final FindingContext context;
  private final Powers powers;
  private final TrusteeNames names;
  private final BitSet services;
  private final ObjectKeys keys;
  private final Map<DirectoryTree, Integer> accounts = new HashMap<>();
  private @Nullable Map<String, Integer> counts;

  public DelegationFinder(FindingContext context) {
    this.context = context;
    this.powers = context.assessment.powers();
    this.names = new TrusteeNames(powers.trees());
    this.services = context.services();
    this.keys = new ObjectKeys(powers);
  }

  /** What one trustee was given in one directory that is told under one kind. */
  private record Group(FindingKind kind, DirectoryTree tree, String trustee) {}

  @Override
  public void find(Consumer<Finding> out) {
    Map<Group, List<Delegation>> groups = new LinkedHashMap<>();
    Map<DirectoryTree, Map<Integer, List<Delegation>>> unsupported = new LinkedHashMap<>();
    Entrusted.each(
        context.assessment,
        (tree, one) -> {
          kind(tree, one)
              .ifPresent(group -> groups.computeIfAbsent(group, g -> new ArrayList<>()).add(one));
          if (one.origin() == Origin.CLAIMED) {
            unsupported
                .computeIfAbsent(tree, t -> new TreeMap<>())
                .computeIfAbsent(one.object(), o -> new ArrayList<>())
                .add(one);
          }
        });
    groups.forEach((group, lines) -> out.accept(finding(group, lines)));
    unsupported.forEach(
        (tree, objects) ->
            objects.forEach((object, lines) -> out.accept(claims(tree, object, lines))));
  }

  /** Under which kind a delegation is told, if it is. */
  private Optional<Group> kind(DirectoryTree tree, Delegation one) {
    if (one.denies()) {
      return Optional.empty();
    }
    String sid = one.trustee();
    TrusteeKind holder = names.kind(sid);
    return switch (holder) {
      case PERSON ->
          powers.trees().subject(sid).filter(services::get).isPresent()
              ? Optional.empty()
              : Optional.of(new Group(FindingKind.DIRECT_ASSIGNMENT, tree, sid));
      case BROAD ->
          one.weight() == 0
              ? Optional.empty()
              : Optional.of(new Group(FindingKind.ASSIGNED_TO_EVERYONE, tree, sid));
      case NOBODY -> Optional.of(new Group(FindingKind.UNRESOLVED_TRUSTEE, tree, sid));
      case GROUP -> ofGroup(tree, one);
      case SYSTEM -> Optional.empty();
    };
  }

  private Optional<Group> ofGroup(DirectoryTree tree, Delegation one) {
    String sid = one.trustee();
    if (powers.trees().subject(sid).isEmpty()) {
      return Optional.empty();
    }
    int inside = inside(sid);
    if (inside == 0) {
      return isOfTheDirectory(sid) || !powers.lists().counting(sid).perhaps().isEmpty()
          ? Optional.empty()
          : Optional.of(new Group(FindingKind.ASSIGNED_TO_EMPTY_GROUP, tree, sid));
    }
    return one.weight() > 0 && isBroad(tree, sid, inside)
        ? Optional.of(new Group(FindingKind.ASSIGNED_TO_LARGE_GROUP, tree, sid))
        : Optional.empty();
  }

  /** How many accounts count as a group that is a trustee; of all groups at once. */
  private int inside(String sid) {
    Map<String, Integer> known = counts;
    if (known == null) {
      known = count();
      counts = known;
    }
    return known.getOrDefault(sid, 0);
  }

  private Map<String, Integer> count() {
    Map<String, Integer> found = new HashMap<>();
    int[] sizes = GroupSizes.of(powers.lists().memberships());
    for (int group = 0; group < sizes.length; group++) {
      found.put(powers.trees().sid(context.facts.firstGroup() + group), sizes[group]);
    }
    return found;
  }

  /** Groups that every directory has ([MS-DTYP] 2.4.2.4): their rights are there in advance. */
  private static boolean isOfTheDirectory(String sid) {
    String id = sid.substring(sid.lastIndexOf('-') + 1);
    return sid.startsWith("S-1-5-32-") || (id.length() < 5 && Integer.parseInt(id) < FIRST_OWN_ID);
  }

  private boolean isBroad(DirectoryTree tree, String sid, int inside) {
    int subject = powers.trees().subject(sid).orElse(-1);
    if (context.rules.broad().contains(subject)) {
      return true;
    }
    int all = accounts(tree);
    return all >= FEW && 100L * inside >= (long) context.limits.broadPercent() * all;
  }

  private int accounts(DirectoryTree tree) {
    return accounts.computeIfAbsent(
        tree,
        t -> {
          int count = 0;
          for (int account = 0; account < context.facts.accounts(); account++) {
            boolean here = context.facts.source(account).equals(t.directory());
            count += here && !powers.trees().sid(account).isEmpty() ? 1 : 0;
          }
          return count;
        });
  }

  private Finding finding(Group group, List<Delegation> lines) {
    DirectoryTree tree = group.tree;
    Delegation worst = worst(tree, lines);
    List<String> why = new ArrayList<>();
    Weight weight = weight(tree, worst, why);
    if (lines.size() > 1) {
      why.add("on " + Words.count(lines.size(), "object", "objects"));
    }
    String name = names.name(group.trustee);
    String what = worst.may() + ", on " + place(tree, worst.object()) + also(lines.size() - 1);
    Weight low = weight == Weight.HIGH ? Weight.MEDIUM : Weight.LOW;
    return switch (group.kind) {
      case DIRECT_ASSIGNMENT -> {
        why.add(0, "it follows the person, not the task");
        yield of(
            group,
            lines,
            low,
            why,
            "delegated to a person instead of a group: " + what + ", to " + name,
            "give it to a group of those who do the task, and take these entries out");
      }
      case ASSIGNED_TO_EVERYONE -> {
        int reached = powers.lists().counting(group.trustee).yes().cardinality();
        why.add("it reaches " + Words.count(reached, "account", "accounts"));
        yield of(
            group,
            lines,
            weight,
            why,
            "delegated to " + name + ": " + what,
            "give it to the groups that need it, and take these entries out");
      }
      case ASSIGNED_TO_LARGE_GROUP -> {
        int inside = inside(group.trustee);
        why.add(inside + " of the " + accounts(tree) + " accounts of " + tree.directory());
        yield of(
            group,
            lines,
            low,
            why,
            "delegated to a group with "
                + Words.count(inside, "member", "members")
                + ": "
                + what
                + ", to "
                + name,
            "give it to a group of those who do the task, and take these entries out");
      }
      case ASSIGNED_TO_EMPTY_GROUP ->
          of(
              group,
              lines,
              Weight.LOW,
              why,
              "the group "
                  + name
                  + " is empty and is delegated: "
                  + what
                  + "; its next member gets that",
              "take these entries out, or put somebody in");
      default ->
          of(
              group,
              lines,
              Weight.LOW,
              why,
              "delegated to "
                  + group.trustee
                  + ", who is in no directory: "
                  + what
                  + "; whoever gets that id next gets the right",
              "take these entries out");
    };
  }

  /** The line that gives most, of those the one on most objects, of those the first. */
  private static Delegation worst(DirectoryTree tree, List<Delegation> lines) {
    Delegation worst = lines.get(0);
    for (Delegation line : lines) {
      boolean more =
          line.weight() > worst.weight()
              || (line.weight() == worst.weight()
                  && below(tree, line.object()) > below(tree, worst.object()));
      worst = more ? line : worst;
    }
    return worst;
  }

  private static int below(DirectoryTree tree, int object) {
    return tree.end(object) - object - 1;
  }

  /** High for what gives an object itself, with all below it; low for what gives little. */
  private static Weight weight(DirectoryTree tree, Delegation line, List<String> why) {
    int below = below(tree, line.object());
    String reach = below == 0 ? "" : ", with " + Words.count(below, "object", "objects") + " below";
    if (line.weight() == 2) {
      why.add("who can do that has the object itself" + reach);
      return Weight.HIGH;
    }
    why.add(line.weight() == 1 ? "it gives much" + reach : "it gives little" + reach);
    return line.weight() == 1 ? Weight.MEDIUM : Weight.LOW;
  }

  private static String place(DirectoryTree tree, int object) {
    return tree.parent(object) < 0 ? "the whole directory " + tree.directory() : tree.label(object);
  }

  private static String also(int more) {
    return more == 0
        ? ""
        : ", and more on " + Words.count(more, "further object", "further objects");
  }

  private Finding of(
      Group group,
      List<Delegation> lines,
      Weight weight,
      List<String> why,
      String sentence,
      String advice) {
    Key cause =
        powers
            .trees()
            .subject(group.trustee)
            .map(context.facts::key)
            .orElseGet(
                () ->
                    new Key(
                        group.kind == FindingKind.ASSIGNED_TO_EVERYONE
                            ? KeyKind.IMPLICIT
                            : KeyKind.ACCOUNT,
                        group.tree.directory(),
                        group.trustee));
    return new Finding(
        group.kind,
        group.tree.directory(),
        cause,
        weight,
        why,
        sentence,
        "",
        objects(group.tree, lines),
        evidence(group.tree, lines),
        advice,
        removals(group.tree, lines));
  }

  private List<Key> objects(DirectoryTree tree, List<Delegation> lines) {
    return lines.stream().map(line -> keys.key(tree, line.object())).distinct().sorted().toList();
  }

  private List<Evidence> evidence(DirectoryTree tree, List<Delegation> lines) {
    return lines.stream()
        .limit(FEW)
        .map(
            line ->
                Evidence.of(
                    place(tree, line.object())
                        + ": "
                        + line.may()
                        + " to "
                        + names.name(line.trustee())
                        + ", "
                        + line.origin().words()))
        .toList();
  }

  private List<Change> removals(DirectoryTree tree, List<Delegation> lines) {
    List<Change> changes = new ArrayList<>();
    for (Delegation line : lines) {
      line.entries()
          .forEach(entry -> changes.add(powers.lists().removal(tree, line.object(), entry)));
    }
    return changes;
  }

  private Finding claims(DirectoryTree tree, int object, List<Delegation> lines) {
    Delegation worst = worst(tree, lines);
    List<String> why = new ArrayList<>(List.of("it counts, and no list above shows it"));
    Weight weight = weight(tree, worst, why);
    return new Finding(
        FindingKind.UNSUPPORTED_INHERITANCE,
        "",
        keys.key(tree, object),
        weight == Weight.HIGH ? Weight.MEDIUM : Weight.LOW,
        why,
        place(tree, object)
            + " has "
            + (lines.size() == 1 ? "an entry that claims" : "entries that claim")
            + " to be inherited, and nothing above hands "
            + (lines.size() == 1 ? "it" : "them")
            + " on ("
            + names.name(worst.trustee())
            + ": "
            + worst.may()
            + ")",
        "",
        List.of(keys.key(tree, object)),
        evidence(tree, lines),
        "take " + (lines.size() == 1 ? "it" : "them") + " out, or give the same in so many words",
        removals(tree, lines));
  }
}
