package org.sobercompass.core.system.files;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import java.util.stream.LongStream;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.Asker;
import org.sobercompass.core.access.Holders;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.descriptor.Ace;
import org.sobercompass.core.descriptor.AceType;
import org.sobercompass.core.descriptor.Descriptor;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.FactsBuilder;
import org.sobercompass.core.facts.FactsBuilder.Space;
import org.sobercompass.core.facts.FactsSource;
import org.sobercompass.core.facts.Implicit;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.facts.SubjectRow;
import org.sobercompass.core.facts.Via;
import org.sobercompass.core.filter.FilterParser;
import org.sobercompass.core.membership.MembershipProfile;
import org.sobercompass.core.membership.Sight;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.core.removal.NotHeld;
import org.sobercompass.core.removal.Removal;
import org.sobercompass.core.removal.Unpick;
import org.sobercompass.core.store.IntList;
import org.sobercompass.core.system.Admission;
import org.sobercompass.core.system.Change;
import org.sobercompass.core.system.Decision;
import org.sobercompass.core.system.FactRef;
import org.sobercompass.core.system.Layer;
import org.sobercompass.core.system.Limits;
import org.sobercompass.core.system.ListedSystem;
import org.sobercompass.core.system.Question;
import org.sobercompass.core.system.Trustees;
import org.sobercompass.core.system.Verdict;

/**
 * What is promised of every decider, on random trees of files: the sweep, one decision, its layers,
 * its proofs and everybody at once agree, also where a group is perhaps not seen and where a list
 * was not read.
 */
class FileContractTest {
  private static final int ACCOUNTS = 6;
  private static final int GROUPS = 5;
  private static final int PATHS = 14;

  static LongStream seeds() {
    return LongStream.range(0, 60);
  }

  @ParameterizedTest
  @MethodSource("seeds")
  void allWaysOfAskingAgree(long seed) {
    Random random = new Random(seed);
    boolean[] certain = new boolean[1];
    AccessModel model = model(random, seed, certain);
    Facts facts = model.facts();
    SystemView view = model.systems().get(0);
    Asker asker = model.asker();
    for (int account = 0; account < facts.accounts(); account++) {
      check(view, asker, account, seed);
    }
    for (int r = 0; r < view.resources().size() && certain[0]; r++) {
      everybody(view, asker, r, seed);
    }
    removed(model, random, seed);
  }

  /** The least removals end it, and no cheaper one or two do: for lists in order, masks, shares. */
  @ParameterizedTest
  @MethodSource("seeds")
  void whatIsUnpickedEndsAndNothingCheaperDoes(long seed) {
    AccessModel model = model(new Random(seed), seed, new boolean[1]);
    SystemView view = model.systems().get(0);
    List<Change> all = removals(model);
    int tried = 0;
    for (int account = 0; account < ACCOUNTS && tried < 4; account++) {
      int resource = (int) ((seed * 7 + account) % view.resources().size());
      int right = (int) ((seed * 5 + account * 3) % view.rights().size());
      if (model.asker().decide(view, account, Question.of(resource, right)) != Verdict.YES) {
        continue;
      }
      tried++;
      Removal found = new Unpick(model).find(new NotHeld(account, 0, List.of(right), resource));
      if (found.result() != Removal.Result.NONE_ENDS_IT) {
        assertThat(isHeld(model.with(found.changes()), account, resource, right))
            .as("seed %d", seed)
            .isFalse();
      }
      if (found.result() != Removal.Result.BEST_FOUND) {
        long limit = found.changes().isEmpty() ? Long.MAX_VALUE : cost(model, found.changes());
        for (int a = 0; a < all.size(); a++) {
          for (int b = a; b < all.size(); b++) {
            List<Change> two = a == b ? List.of(all.get(a)) : List.of(all.get(a), all.get(b));
            if (cost(model, two) < limit) {
              assertThat(isHeld(model.with(two), account, resource, right))
                  .as(
                      "seed %d account %d %d %d: %s, not %s",
                      seed, account, resource, right, two, found)
                  .isTrue();
            }
          }
        }
      }
    }
  }

  private static boolean isHeld(AccessModel model, int account, int resource, int right) {
    SystemView view = model.systems().get(0);
    return model.asker().decide(view, account, Question.of(resource, right)) != Verdict.NO;
  }

  /** One for each, and one for each account that it may concern. */
  private static long cost(AccessModel model, List<Change> changes) {
    long cost = 0;
    for (Change change : changes) {
      int subject =
          change instanceof Change.MembershipRemoved removed
              ? removed.member()
              : model
                  .systems()
                  .get(0)
                  .grants()
                  .get(((Change.AssignmentRemoved) change).grant())
                  .subject();
      IntList accounts = new IntList();
      boolean implicit =
          subject >= 0
              && model.facts().kind(subject) == org.sobercompass.core.facts.SubjectKind.IMPLICIT;
      if (subject >= 0 && !implicit) {
        model.widest().walker().accounts(subject, accounts);
      }
      cost += 1 + (implicit ? ACCOUNTS : accounts.size());
    }
    return cost;
  }

  private static List<Change> removals(AccessModel model) {
    List<Change> all = new ArrayList<>();
    for (int grant = 0; grant < model.systems().get(0).grants().size(); grant++) {
      Change change = new Change.AssignmentRemoved(0, grant);
      try {
        model.with(List.of(change));
        all.add(change);
      } catch (IllegalArgumentException e) {
        continue;
      }
    }
    for (int member = 0; member < model.facts().subjects(); member++) {
      for (int i = 0; i < model.graph().upCount(member); i++) {
        all.add(
            new Change.MembershipRemoved(
                member, model.graph().upGroup(member, i), model.graph().upVia(member, i)));
      }
    }
    return all;
  }

  private static AccessModel model(Random random, long seed, boolean[] sure) {
    Facts facts = facts(random);
    FileStyle style = FileStyle.values()[(int) (seed % 3)];
    FileFacts files = files(facts, style, random);
    boolean certain = random.nextBoolean();
    sure[0] = certain;
    Sight sight = sight(certain);
    FileAccess system =
        new FileAccess(
            new ListedSystem.Definition(
                "x",
                "x",
                sight,
                new Admission(facts, false, Set.of(), Optional.empty()),
                List.of()),
            List.of(),
            files,
            facts);
    return AccessModel.of(facts, List.of(system), java.time.Instant.EPOCH, Optional.empty());
  }

  /** What is left when one entry is gone: all ways agree again, and the entry gives nothing. */
  private static void removed(AccessModel model, Random random, long seed) {
    SystemView before = model.systems().get(0);
    int grant = random.nextInt(before.grants().size());
    AccessModel after;
    try {
      after = model.with(List.of(new Change.AssignmentRemoved(0, grant)));
    } catch (IllegalArgumentException e) {
      boolean none = before.grants().get(grant).declared();
      assertThat(none || before.grants().get(grant).id().equals("superuser")).isTrue();
      return;
    }
    SystemView view = after.systems().get(0);
    assertThat(view.grants()).hasSameSizeAs(before.grants());
    assertThat(view.grants().get(grant).subject()).isIn(-1, before.grants().get(grant).subject());
    for (int account = 0; account < ACCOUNTS; account++) {
      check(view, after.asker(), account, seed);
      for (int r = 0; r < view.resources().size(); r++) {
        for (int right = 0; right < view.rights().size(); right++) {
          Decision why = after.asker().explain(view, account, Question.of(r, right), Limits.USUAL);
          assertThat(why.proofs())
              .as("seed %d", seed)
              .noneMatch(p -> p.present().contains(new FactRef.GrantFact(grant)));
        }
      }
    }
  }

  private static void check(SystemView view, Asker asker, int account, long seed) {
    Verdict[][] swept = swept(view, asker, account);
    for (int r = 0; r < view.resources().size(); r++) {
      for (int right = 0; right < view.rights().size(); right++) {
        Question question = Question.of(r, right);
        String what =
            "seed %d account %d %s %s"
                .formatted(seed, account, view.resources().id(r), view.rights().text(right));
        Verdict one = asker.decide(view, account, question);
        assertThat(swept[r][right]).as(what).isEqualTo(one);
        boolean comes = !asker.projected(view, account).isEmpty();
        Verdict layered = Verdict.YES;
        for (Layer layer : view.decider().layers(asker.token(view, account), question)) {
          layered = layered.and(layer.verdict());
        }
        assertThat(comes ? layered : Verdict.NO).as(what + " by layers").isEqualTo(one);
        Decision why = asker.explain(view, account, question, Limits.USUAL);
        assertThat(!why.proofs().isEmpty()).as(what + " proofs").isEqualTo(one == Verdict.YES);
      }
    }
  }

  private static Verdict[][] swept(SystemView view, Asker asker, int account) {
    Verdict[][] all = new Verdict[view.resources().size()][view.rights().size()];
    for (Verdict[] row : all) {
      java.util.Arrays.fill(row, Verdict.NO);
    }
    int[] cell = new int[all.length];
    java.util.Arrays.fill(cell, -1);
    List<long[]> masks = new ArrayList<>();
    List<Integer> tops = new ArrayList<>();
    view.decider()
        .sweep(
            asker.projected(view, account),
            (resource, below, count, yes, perhaps) -> {
              if (!below) {
                tops.add(resource);
                masks.add(new long[] {yes[0], perhaps[0]});
              }
            });
    for (int i = 0; i < tops.size(); i++) {
      for (int r = tops.get(i); r < view.resources().end(tops.get(i)); r++) {
        cell[r] = i;
      }
    }
    for (int r = 0; r < all.length; r++) {
      for (int right = 0; right < all[r].length && cell[r] >= 0; right++) {
        long[] mask = masks.get(cell[r]);
        boolean yes = (mask[0] >>> right & 1) != 0;
        boolean perhaps = (mask[1] >>> right & 1) != 0;
        all[r][right] = yes ? Verdict.YES : perhaps ? Verdict.UNDECIDED : Verdict.NO;
      }
    }
    return all;
  }

  private static void everybody(SystemView view, Asker asker, int resource, long seed) {
    for (int right = 0; right < view.rights().size(); right++) {
      Set<Integer> all = new HashSet<>();
      new Holders(asker).find(view, right, resource, false).forEach(h -> all.add(h.account()));
      for (int account = 0; account < ACCOUNTS; account++) {
        Verdict one = asker.decide(view, account, Question.of(resource, right));
        assertThat(all.contains(account))
            .as("seed %d %d %d %d", seed, account, resource, right)
            .isEqualTo(one != Verdict.NO);
      }
    }
  }

  private static Sight sight(boolean certain) {
    Sight all =
        Sight.all("d")
            .with(
                new MembershipProfile(
                    Set.of(Via.MEMBER, Via.IMPLICIT), MembershipProfile.FULL, false));
    return certain
        ? all
        : new Sight(
            "d",
            List.of(),
            true,
            List.of(),
            Optional.empty(),
            List.of(),
            Optional.of(FilterParser.parse("(!(unknown-attribute=3))")),
            Optional.empty(),
            all.profile());
  }

  private static Facts facts(Random random) {
    FactsBuilder builder = new FactsBuilder(List.of(), dn -> dn, new Problems());
    FactsSource source = builder.source("d");
    for (int a = 0; a < ACCOUNTS; a++) {
      int row = source.add(row(SubjectKind.ACCOUNT, "a" + a));
      source.name(row, Space.LOGIN, "a" + a);
    }
    for (int g = 0; g < GROUPS; g++) {
      int row = source.add(row(SubjectKind.GROUP, "g" + g));
      for (int a = 0; a < ACCOUNTS; a++) {
        if (random.nextInt(3) == 0) {
          source.refer(row, Via.MEMBER, Space.LOGIN, "a" + a);
        }
      }
    }
    return builder.build();
  }

  private static SubjectRow row(SubjectKind kind, String id) {
    return new SubjectRow(kind, id, id, id, id, id, "", 0, Facts.NEVER);
  }

  private static FileFacts files(Facts facts, FileStyle style, Random random) {
    Trustees.Builder trustees = new Trustees.Builder(facts, facts.implicit(Implicit.EVERYONE));
    for (int a = 0; a < ACCOUNTS; a++) {
      trustees.add(a == 0 ? "u:0" : "u" + a, "u" + a, a);
    }
    for (int g = 0; g < GROUPS; g++) {
      trustees.add("g" + g, "g" + g, facts.firstGroup() + g);
    }
    int stranger = trustees.add("stranger", "stranger", -1);
    if (style == FileStyle.SHARED && random.nextInt(3) == 0) {
      trustees.open(stranger);
      trustees.known(stranger);
    }
    FileFacts.Builder into = new FileFacts.Builder(style, trustees);
    List<Integer> folders = new ArrayList<>(List.of(0));
    into.put(0, true, list(into, style, random, trustees, stranger));
    for (int p = 1; p < PATHS; p++) {
      int above = folders.get(random.nextInt(folders.size()));
      int node =
          into.paths().child(above, ("p" + p).getBytes(java.nio.charset.StandardCharsets.UTF_8));
      boolean folder = random.nextInt(2) == 0;
      boolean read = random.nextInt(12) > 0;
      into.put(
          node, folder, read ? list(into, style, random, trustees, stranger) : FileFacts.UNREAD);
      if (folder) {
        folders.add(node);
      }
    }
    if (style == FileStyle.SHARED && random.nextBoolean()) {
      Descriptor share = descriptor(random);
      into.share("s", 0, into.shareList(share, trusteesOf(share, -1, stranger)));
    }
    return into.build();
  }

  private static int list(
      FileFacts.Builder into,
      FileStyle style,
      Random random,
      Trustees.Builder trustees,
      int stranger) {
    if (style == FileStyle.POSIX) {
      PosixList.Parts parts = posix(random, trustees.find("u:0"));
      return into.list(parts.toString() + random.nextLong(), new PosixList(parts));
    }
    Descriptor made = descriptor(random);
    int owner = 1 + random.nextInt(ACCOUNTS + GROUPS);
    return into.list(made, owner, trusteesOf(made, owner, stranger));
  }

  private static PosixList.Parts posix(Random random, int superuser) {
    int named = random.nextInt(3);
    int[] users = new int[named];
    int[] groups = new int[named];
    int[] mayUsers = new int[named];
    int[] mayGroups = new int[named];
    for (int i = 0; i < named; i++) {
      users[i] = 2 + (i + named) % (ACCOUNTS - 1);
      groups[i] = 1 + ACCOUNTS + (i * 2 + named) % GROUPS;
      mayUsers[i] = may(random);
      mayGroups[i] = may(random);
    }
    return new PosixList.Parts(
        1 + random.nextInt(ACCOUNTS),
        1 + ACCOUNTS + random.nextInt(GROUPS),
        superuser,
        may(random),
        may(random),
        may(random),
        named > 0 ? random.nextInt(8) : -1,
        random.nextInt(8),
        users,
        mayUsers,
        groups,
        mayGroups,
        List.of(),
        named == 0 && random.nextInt(3) == 0 ? random.nextInt(8) : 0);
  }

  private static int may(Random random) {
    return random.nextInt(8) | (random.nextBoolean() ? 1 : 0);
  }

  private static Descriptor descriptor(Random random) {
    List<Ace> entries = new ArrayList<>();
    AceType[] types = {
      AceType.ALLOW,
      AceType.ALLOW,
      AceType.ALLOW,
      AceType.DENY,
      AceType.ALLOW_CONDITIONAL,
      AceType.DENY_CONDITIONAL,
      AceType.UNKNOWN
    };
    for (int i = random.nextInt(6); i > 0; i--) {
      AceType type = types[random.nextInt(random.nextInt(4) == 0 ? types.length : 4)];
      int mask = random.nextInt(FileRights.FULL + 1) & FileRights.FULL;
      int flags = random.nextInt(4) == 0 ? 0x0b : random.nextInt(4);
      mask = random.nextInt(3) == 0 ? FileRights.FULL : mask;
      entries.add(Ace.of(type, flags, mask, "t" + random.nextInt(2 + ACCOUNTS + GROUPS)));
    }
    boolean noList = random.nextInt(15) == 0;
    return new Descriptor(
        random.nextBoolean() ? Descriptor.DACL_PROTECTED : 0,
        Optional.of("owner" + random.nextLong()),
        Optional.empty(),
        noList ? Optional.empty() : Optional.of(entries),
        Optional.empty());
  }

  private static int[] trusteesOf(Descriptor descriptor, int owner, int stranger) {
    return descriptor.entries().stream()
        .map(Ace::trustee)
        .mapToInt(t -> Math.min(Integer.parseInt(t.substring(1)), stranger))
        .map(t -> t == 0 && owner > 0 ? owner : t)
        .toArray();
  }
}
