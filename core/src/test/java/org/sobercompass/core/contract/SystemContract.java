package org.sobercompass.core.contract;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.LongStream;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.TestInstance;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.Asker;
import org.sobercompass.core.access.Bulk;
import org.sobercompass.core.access.Holders;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.facts.Via;
import org.sobercompass.core.removal.Effects;
import org.sobercompass.core.removal.NotHeld;
import org.sobercompass.core.removal.Removal;
import org.sobercompass.core.removal.Unpick;
import org.sobercompass.core.store.IntList;
import org.sobercompass.core.system.Change;
import org.sobercompass.core.system.Decider;
import org.sobercompass.core.system.Decision;
import org.sobercompass.core.system.FactRef;
import org.sobercompass.core.system.Impact;
import org.sobercompass.core.system.Layer;
import org.sobercompass.core.system.Limits;
import org.sobercompass.core.system.ListedSystem;
import org.sobercompass.core.system.Proof;
import org.sobercompass.core.system.Question;
import org.sobercompass.core.system.Verdict;

/**
 * The contract of a decider, for every kind of system: all ways of asking agree with each other and
 * with a plain program; what a proof stands on is there; what a change may touch is never too
 * small; the least removals end it, and nothing cheaper does.
 */
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
public abstract class SystemContract {

  /** A random organization with one system of the kind, the same for the same seed. */
  protected abstract Sample sample(long seed);

  /** How many samples are looked at. */
  protected int samples() {
    return 60;
  }

  /** Whether a removal costs one, and one for each account; else another test holds its price. */
  protected boolean isPricedSimply() {
    return true;
  }

  /**
   * Whether what depends on memberships that are not known is undecided only where it must be; else
   * two unknowns of which one makes up for the other may be taken for undecided.
   */
  protected boolean isExact() {
    return true;
  }

  LongStream seeds() {
    return LongStream.range(0, Integer.getInteger("sober.samples", samples()));
  }

  @ParameterizedTest
  @MethodSource("seeds")
  void allWaysOfAskingAgreeWithThePlainProgram(long seed) {
    Sample sample = sample(seed);
    SystemView view = sample.view();
    Asker asker = sample.model().asker();
    int asked = 0;
    int open = 0;
    for (int account = 0; account < sample.model().facts().accounts(); account++) {
      boolean certain = asker.token(view, account).subjects().perhaps().isEmpty();
      Map<Long, Verdict> swept = swept(view, asker, account);
      for (int resource = 0; resource < view.resources().size(); resource++) {
        for (int right = 0; right < view.rights().size(); right++) {
          String what = what(seed, view, account, resource, right);
          Verdict one = asker.decide(view, account, Question.of(resource, right));
          Verdict plain = sample.naive().decide(account, right, resource);
          if (certain || isExact() || one != Verdict.UNDECIDED) {
            assertThat(one).as(what).isEqualTo(plain);
          }
          asked++;
          open += one == plain ? 0 : 1;
          assertThat(swept.getOrDefault(key(resource, right), Verdict.NO))
              .as("%s swept", what)
              .isEqualTo(one);
          explained(view, asker, account, Question.of(resource, right), one, what);
        }
      }
      heldSomewhere(view, asker, account, swept, "seed " + seed);
    }
    assertThat(open).as("needlessly undecided, seed %d", seed).isLessThanOrEqualTo(asked / 20);
  }

  /** Work over all accounts hands to a system only what it names: the answers are the same. */
  @ParameterizedTest
  @MethodSource("seeds")
  void whatASystemNamesOfAnAccountIsEnough(long seed) {
    Sample sample = sample(seed);
    sample.view().memberships().prepare();
    List<Object> withAll = answers(sample);
    sample
        .model()
        .bulk()
        .inOrder(
            (asker, range) -> {
              Bulk.project(asker, range, (account, view, who) -> {});
              return range;
            },
            range -> {});
    assertThat(answers(sample)).as("seed %d", seed).isEqualTo(withAll);
  }

  /** All that a fresh asker says about every account, at some of its questions. */
  private static List<Object> answers(Sample sample) {
    SystemView view = sample.view();
    Asker asker = sample.model().asker();
    List<Object> all = new ArrayList<>();
    for (int account = 0; account < sample.model().facts().accounts(); account++) {
      IntList grants = view.decider().grantsOf(asker.token(view, account));
      grants.sort();
      all.add(Sample.list(grants));
      for (int i = 0; i < view.resources().size() * view.rights().size(); i += 3) {
        Question question = Question.of(i / view.rights().size(), i % view.rights().size());
        all.add(asker.decide(view, account, question));
        all.add(view.decider().layers(asker.token(view, account), question));
        all.add(asker.explain(view, account, question, Limits.USUAL));
      }
    }
    return all;
  }

  /** What is called an entry can be taken away, and of lists nothing else can. */
  @ParameterizedTest
  @MethodSource("seeds")
  void whatIsCalledRemovableCanBeRemoved(long seed) {
    Sample sample = sample(seed);
    SystemView view = sample.view();
    for (int grant = 0; grant < view.grants().size(); grant++) {
      boolean removable = view.system().isRemovable(grant, view.basis());
      if (removable || view.system() instanceof ListedSystem) {
        List<Change> change = List.of(new Change.AssignmentRemoved(view.number(), grant));
        assertThat(isPossible(sample.model(), change))
            .as("seed %d grant %d", seed, grant)
            .isEqualTo(removable);
      }
    }
  }

  private static boolean isPossible(AccessModel model, List<Change> change) {
    try {
      return model.with(change) != model;
    } catch (IllegalArgumentException e) {
      return false;
    }
  }

  private static String what(long seed, SystemView view, int account, int resource, int right) {
    return "seed %d account %d %s %s"
        .formatted(seed, account, view.resources().id(resource), view.rights().text(right));
  }

  private static long key(int resource, int right) {
    return (long) resource << 32 | right;
  }

  /** The sweep, told out to every resource that its cells cover. */
  private static Map<Long, Verdict> swept(SystemView view, Asker asker, int account) {
    Map<Integer, long[][]> self = new HashMap<>();
    Map<Integer, long[][]> below = new HashMap<>();
    int[] counted = {0};
    view.decider()
        .sweep(
            asker.projected(view, account),
            (resource, isBelow, count, yes, perhaps) -> {
              (isBelow ? below : self).put(resource, new long[][] {yes.clone(), perhaps.clone()});
              counted[0] += count;
            });
    Map<Long, Verdict> found = new HashMap<>();
    int covered = 0;
    for (int resource = 0; resource < view.resources().size(); resource++) {
      long[][] cell = self.get(resource);
      int at = view.resources().parent(resource);
      while (cell == null && at >= 0 && !self.containsKey(at)) {
        at = view.resources().parent(at);
      }
      cell = cell == null && at >= 0 ? below.get(at) : cell;
      covered += cell == null ? 0 : 1;
      for (int right = 0; right < view.rights().size() && cell != null; right++) {
        boolean yes = (cell[0][right >> 6] >>> right & 1) != 0;
        boolean perhaps = (cell[1][right >> 6] >>> right & 1) != 0;
        found.put(
            key(resource, right), yes ? Verdict.YES : perhaps ? Verdict.UNDECIDED : Verdict.NO);
      }
    }
    assertThat(counted[0]).as("resources counted by the sweep").isEqualTo(covered);
    return found;
  }

  private static void explained(
      SystemView view, Asker asker, int account, Question question, Verdict one, String what) {
    Decider decider = view.decider();
    List<Layer> layers = decider.layers(asker.token(view, account), question);
    Verdict layered = Verdict.YES;
    for (Layer layer : layers) {
      layered = layered.and(layer.verdict());
    }
    if (!layers.isEmpty() && !asker.projected(view, account).isEmpty()) {
      assertThat(layered).as("%s by layers", what).isEqualTo(one);
    }
    Decision why = asker.explain(view, account, question, Limits.USUAL);
    assertThat(why.verdict()).as(what).isEqualTo(one);
    if (one != Verdict.UNDECIDED) {
      assertThat(!why.proofs().isEmpty()).as("%s proofs", what).isEqualTo(one == Verdict.YES);
    }
    Set<Integer> giving =
        Set.copyOf(Sample.list(decider.giving(question.resource(), question.allOf()[0], false)));
    Set<Integer> own = Set.copyOf(Sample.list(decider.grantsOf(asker.token(view, account))));
    // Beside what is surely his, what is perhaps his gives too, and must go as well.
    assertThat(
            why.proofs().isEmpty() || why.proofs().stream().anyMatch(p -> own.contains(p.grant())))
        .as("%s own grants", what)
        .isTrue();
    for (Proof proof : why.proofs()) {
      assertThat(proof.present())
          .as("%s giving", what)
          .anyMatch(f -> f instanceof FactRef.GrantFact g && giving.contains(g.grant()));
      assertThat(proof.present()).as(what).contains(new FactRef.GrantFact(proof.grant()));
    }
  }

  private static void heldSomewhere(
      SystemView view, Asker asker, int account, Map<Long, Verdict> swept, String what) {
    long[] sure = new long[view.rights().words()];
    long[] any = new long[sure.length];
    view.decider().held(asker.projected(view, account), sure, any);
    long[] wantedSure = new long[sure.length];
    long[] wantedAny = new long[sure.length];
    swept.forEach(
        (cell, verdict) -> {
          int right = cell.intValue();
          wantedSure[right >> 6] |= verdict == Verdict.YES ? 1L << right : 0;
          wantedAny[right >> 6] |= verdict == Verdict.NO ? 0 : 1L << right;
        });
    assertThat(sure).as(what).isEqualTo(wantedSure);
    assertThat(any).as(what).isEqualTo(wantedAny);
  }

  /**
   * With nothing but the grants of a proof the right is held all the same: of one proof at least.
   */
  @ParameterizedTest
  @MethodSource("seeds")
  void aProofProves(long seed) {
    AccessModel model = sample(seed).model();
    SystemView view = model.systems().get(0);
    List<Change> all =
        removals(model).stream().filter(c -> c instanceof Change.AssignmentRemoved).toList();
    for (int account = 0; account < model.facts().accounts(); account++) {
      for (int i = 0; i < 4; i++) {
        int resource = (int) ((seed * 3 + i * 5L + account) % view.resources().size());
        int right = (int) ((seed + i * 3L + account) % view.rights().size());
        Question question = Question.of(resource, right);
        Decision why = model.asker().explain(view, account, question, Limits.USUAL);
        // What the superuser may run depends on somebody else's entry, which is no way to it.
        boolean superuser =
            why.proofs().stream()
                .anyMatch(p -> view.grants().get(p.grant()).id().equals("superuser"));
        // Where groups are not known, it may be held in each case by another entry.
        boolean certain = model.asker().token(view, account).subjects().perhaps().isEmpty();
        if (why.verdict() == Verdict.YES && !superuser && certain) {
          proved++;
          int who = account;
          assertThat(why.proofs())
              .as(what(seed, view, account, resource, right))
              .anyMatch(proof -> proves(model, all, proof, who, question));
        }
      }
    }
  }

  private static boolean proves(
      AccessModel model, List<Change> all, Proof proof, int account, Question question) {
    List<Change> others =
        all.stream()
            .filter(
                c ->
                    !proof
                        .present()
                        .contains(new FactRef.GrantFact(((Change.AssignmentRemoved) c).grant())))
            .toList();
    AccessModel left = model.with(others);
    return left.asker().decide(left.systems().get(0), account, question) == Verdict.YES;
  }

  private int proved;

  @AfterAll
  void proofsWereTried() {
    assertThat(proved).isGreaterThan((int) seeds().count() / 4);
  }

  /** Two rights at once: each of them is needed, and where rights add up both are enough. */
  @ParameterizedTest
  @MethodSource("seeds")
  void rightsAskedTogetherAreHeldTogether(long seed) {
    Sample sample = sample(seed);
    SystemView view = sample.view();
    Asker asker = sample.model().asker();
    int rights = view.rights().size();
    for (int resource = 0; resource < view.resources().size(); resource++) {
      int first = (int) (seed + resource) % rights;
      int second = (int) (seed * 3 + resource * 5L + 1) % rights;
      Question both = new Question(resource, new int[] {first, second});
      Set<Integer> holders = new TreeSet<>();
      new Holders(asker).together(view, both).forEach(holder -> holders.add(holder.account()));
      for (int account = 0; account < sample.model().facts().accounts(); account++) {
        String what = what(seed, view, account, resource, first);
        Verdict one = asker.decide(view, account, Question.of(resource, first));
        Verdict other = asker.decide(view, account, Question.of(resource, second));
        Verdict together = asker.decide(view, account, both);
        assertThat(together.ordinal()).as(what).isLessThanOrEqualTo(one.and(other).ordinal());
        if (view.decider().isAdditive()) {
          assertThat(together).as(what).isEqualTo(one.and(other));
        }
        assertThat(holders.contains(account)).as(what).isEqualTo(together != Verdict.NO);
      }
    }
  }

  @ParameterizedTest
  @MethodSource("seeds")
  void holdersAreAllWhoHoldAndNobodyElse(long seed) {
    Sample sample = sample(seed);
    SystemView view = sample.view();
    Asker asker = sample.model().asker();
    for (int resource = 0; resource < view.resources().size(); resource++) {
      for (int right = 0; right < view.rights().size(); right++) {
        Set<Integer> here = new TreeSet<>();
        Set<Integer> below = new TreeSet<>();
        new Holders(asker).find(view, right, resource, false).forEach(h -> here.add(h.account()));
        new Holders(asker).find(view, right, resource, true).forEach(h -> below.add(h.account()));
        for (int account = 0; account < sample.model().facts().accounts(); account++) {
          boolean somewhere = false;
          for (int r = resource; r < view.resources().end(resource); r++) {
            somewhere |= asker.decide(view, account, Question.of(r, right)) != Verdict.NO;
          }
          Verdict one = asker.decide(view, account, Question.of(resource, right));
          String what = what(seed, view, account, resource, right);
          assertThat(here.contains(account)).as(what).isEqualTo(one != Verdict.NO);
          assertThat(below.contains(account)).as("%s below", what).isEqualTo(somewhere);
        }
      }
    }
  }

  /** Of a change, nothing differs outside what it is said to touch. */
  @ParameterizedTest
  @MethodSource("seeds")
  void whatAChangeTouchesIsNeverToldTooSmall(long seed) {
    AccessModel model = sample(seed).model();
    List<Change> changes = new ArrayList<>(removals(model));
    Random random = new Random(seed);
    for (int i = 0; i < 4; i++) {
      int member = random.nextInt(model.facts().accounts() + model.facts().groups());
      int group = model.facts().firstGroup() + random.nextInt(model.facts().groups());
      if (member != group) {
        changes.add(new Change.MembershipAdded(member, group, Via.MEMBER));
      }
    }
    java.util.Collections.shuffle(changes, random);
    for (Change change : changes.subList(0, Math.min(12, changes.size()))) {
      touched(model, change, "seed " + seed + " " + change);
    }
  }

  private static void touched(AccessModel model, Change change, String what) {
    SystemView before = model.systems().get(0);
    AccessModel changed = model.with(List.of(change));
    SystemView after = changed.systems().get(0);
    Impact impact = before.decider().impact(change);
    Asker then = model.asker();
    Asker now = changed.asker();
    Set<Integer> told = new HashSet<>();
    Effects effects = Effects.of(model, List.of(change));
    effects.ends().forEach(effect -> told.add(effect.account()));
    effects.gives().forEach(effect -> told.add(effect.account()));
    boolean removal = change instanceof Change.AssignmentRemoved;
    for (int account = 0; account < model.facts().accounts(); account++) {
      Set<Integer> subjects = subjects(then, before, account);
      subjects.addAll(subjects(now, after, account));
      boolean concerned = Sample.list(impact.subjects()).stream().anyMatch(subjects::contains);
      boolean idle =
          change instanceof Change.AssignmentRemoved removed
              && before.decider().isIdle(then.projected(before, account), removed.grant());
      for (int resource = 0; resource < before.resources().size(); resource++) {
        boolean inside =
            concerned && resource >= impact.firstResource() && resource < impact.lastResource();
        for (int right = 0; right < before.rights().size(); right++) {
          Question question = Question.of(resource, right);
          Verdict was = then.decide(before, account, question);
          Verdict is = now.decide(after, account, question);
          String where = what + what(0, before, account, resource, right);
          assertThat(was == is || (inside && !idle)).as(where).isTrue();
          boolean usable =
              then.can(before, account, question).verdict()
                  != now.can(after, account, question).verdict();
          assertThat(!usable || told.contains(account)).as("%s is no effect", where).isTrue();
          if (removal && before.decider().isMonotone()) {
            assertThat(is.ordinal()).as(where).isLessThanOrEqualTo(was.ordinal());
          }
        }
      }
    }
  }

  private static Set<Integer> subjects(Asker asker, SystemView view, int account) {
    Set<Integer> all = new HashSet<>(Sample.list(asker.subjects(view, account).sure()));
    all.addAll(Sample.list(asker.subjects(view, account).perhaps()));
    return all;
  }

  /** What is left when one entry is gone: the entry gives nothing, and is not told. */
  @ParameterizedTest
  @MethodSource("seeds")
  void whatIsTakenOutGivesNothing(long seed) {
    AccessModel model = sample(seed).model();
    List<Change> all =
        removals(model).stream().filter(c -> c instanceof Change.AssignmentRemoved).toList();
    if (all.isEmpty()) {
      return;
    }
    Change.AssignmentRemoved one =
        (Change.AssignmentRemoved) all.get(new Random(seed).nextInt(all.size()));
    AccessModel after = model.with(List.of(one));
    SystemView view = after.systems().get(0);
    assertThat(view.grants()).hasSameSizeAs(model.systems().get(0).grants());
    for (int account = 0; account < model.facts().accounts(); account++) {
      Map<Long, Verdict> swept = swept(view, after.asker(), account);
      for (int resource = 0; resource < view.resources().size(); resource++) {
        for (int right = 0; right < view.rights().size(); right++) {
          Question question = Question.of(resource, right);
          Decision why = after.asker().explain(view, account, question, Limits.USUAL);
          assertThat(why.verdict()).isEqualTo(swept.getOrDefault(key(resource, right), Verdict.NO));
          assertThat(why.proofs())
              .as("seed %d", seed)
              .noneMatch(p -> p.present().contains(new FactRef.GrantFact(one.grant())));
        }
      }
    }
  }

  /** The least removals end it, and no cheaper one or two do. */
  @ParameterizedTest
  @MethodSource("seeds")
  void whatIsUnpickedEndsAndNothingCheaperDoes(long seed) {
    AccessModel model = sample(seed).model();
    SystemView view = model.systems().get(0);
    List<Change> all = removals(model);
    int tried = 0;
    for (int account = 0; account < model.facts().accounts() && tried < 4; account++) {
      int resource = (int) ((seed * 7 + account) % view.resources().size());
      int right = (int) ((seed * 5 + account * 3L) % view.rights().size());
      if (model.asker().decide(view, account, Question.of(resource, right)) == Verdict.YES) {
        tried++;
        unpicked(model, all, new NotHeld(account, 0, List.of(right), resource), seed);
      }
    }
  }

  private void unpicked(AccessModel model, List<Change> all, NotHeld goal, long seed) {
    Removal found = new Unpick(model).find(goal);
    if (found.result() != Removal.Result.NONE_ENDS_IT) {
      assertThat(isHeld(model.with(found.changes()), goal)).as("seed %d", seed).isFalse();
    }
    for (Change change : found.changes()) {
      List<Change> fewer = new ArrayList<>(found.changes());
      fewer.remove(change);
      assertThat(isHeld(model.with(fewer), goal)).as("seed %d without %s", seed, change).isTrue();
    }
    if (found.result() == Removal.Result.BEST_FOUND || !isPricedSimply()) {
      return;
    }
    long limit = found.changes().isEmpty() ? Long.MAX_VALUE : cost(model, found.changes());
    for (int a = 0; a < all.size(); a++) {
      for (int b = a; b < all.size(); b++) {
        List<Change> two = a == b ? List.of(all.get(a)) : List.of(all.get(a), all.get(b));
        if (cost(model, two) < limit) {
          assertThat(isHeld(model.with(two), goal))
              .as("seed %d %s: %s, not %s", seed, goal, two, found)
              .isTrue();
        }
      }
    }
  }

  private static boolean isHeld(AccessModel model, NotHeld goal) {
    Question question = Question.of(goal.resource(), goal.rights().get(0));
    SystemView view = model.systems().get(0);
    return model.asker().decide(view, goal.account(), question) != Verdict.NO;
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
      boolean implicit = subject >= 0 && model.facts().kind(subject) == SubjectKind.IMPLICIT;
      if (subject >= 0 && !implicit) {
        model.widest().walker().accounts(subject, accounts);
      }
      cost += 1 + (implicit ? model.facts().accounts() : accounts.size());
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
        continue; // Ownership, and what the superuser has, are no entries.
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
}
