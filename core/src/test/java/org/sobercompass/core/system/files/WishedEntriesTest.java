package org.sobercompass.core.system.files;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.descriptor.Ace;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.proposal.Bound;
import org.sobercompass.core.proposal.Proposal;
import org.sobercompass.core.proposal.ReadyMade;
import org.sobercompass.core.proposal.Step;
import org.sobercompass.core.system.Change;
import org.sobercompass.core.system.ListWish;
import org.sobercompass.core.system.Verdict;

/**
 * Rights given and taken by entries in lists of files, on random trees of all three styles, against
 * trees that were made with the entries in them.
 */
class WishedEntriesTest {
  private static final int ACCOUNTS = RandomFiles.ACCOUNTS;
  private static final int GROUPS = RandomFiles.GROUPS;
  private static final int PATHS = RandomFiles.PATHS;

  private final Facts facts = RandomFiles.facts();

  private static Proposal proposal(AccessModel model, List<ListWish.Edit> edits) {
    SystemView view = model.systems().get(0);
    List<Step> steps = new ArrayList<>();
    edits.forEach(
        e ->
            steps.add(
                new Step.ListItem(
                    view.id(), view.resources().id(e.resource()), e.text(), e.added())));
    return new Proposal("", steps);
  }

  @ParameterizedTest
  @EnumSource(FileStyle.class)
  void whatIsGivenIsAsIfItHadStoodThereAndTakingItBackLeavesNothing(FileStyle style) {
    int gained = 0;
    for (int seed = 0; seed < 150; seed++) {
      Random random = new Random(seed);
      List<RandomFiles.Spot> spots = RandomFiles.spots(style, random);
      AccessModel before = RandomFiles.model(facts, RandomFiles.access(facts, style, spots));
      SystemView view = before.systems().get(0);
      int path = random.nextInt(PATHS);
      int resource = resource(view, spots, path);
      int who = random.nextInt(ACCOUNTS + GROUPS);
      int subject = who < ACCOUNTS ? who : facts.firstGroup() + who - ACCOUNTS;
      int right = random.nextInt(style == FileStyle.POSIX ? 4 : view.rights().size());
      boolean below = random.nextBoolean();
      List<ListWish.Edit> edits =
          view.system().giving(new ListWish(subject, resource, List.of(right), below));
      Proposal proposal = proposal(before, edits);
      Bound bound = proposal.on(before);
      assertThat(bound.isSound()).as(bound.notes().toString()).isTrue();
      AccessModel after = before.with(bound.changes());
      if (style == FileStyle.POSIX) {
        assertThat(RandomFiles.decisions(after))
            .as("seed " + seed)
            .isEqualTo(byHand(before, edits));
      } else {
        assertThat(RandomFiles.decisions(after))
            .as("seed " + seed)
            .isEqualTo(made(style, spots, view, edits));
      }
      gained += RandomFiles.decisions(after).equals(RandomFiles.decisions(before)) ? 0 : 1;
      AccessModel back = after.with(proposal.inverse().on(after).changes());
      if (style != FileStyle.POSIX) {
        assertThat(RandomFiles.decisions(back))
            .as("seed " + seed)
            .isEqualTo(RandomFiles.decisions(before));
      }
    }
    assertThat(gained).isGreaterThan(20);
  }

  private static int resource(SystemView view, List<RandomFiles.Spot> spots, int path) {
    return view.resources().find(id(spots, path)).orElseThrow();
  }

  private static String id(List<RandomFiles.Spot> spots, int path) {
    String above = path == 0 ? "/" : id(spots, spots.get(path).above());
    return path == 0 ? above : (above.equals("/") ? "" : above) + "/p" + path;
  }

  /** The tree made anew with the entries among those that stand there, those that deny first. */
  private Map<String, Verdict> made(
      FileStyle style, List<RandomFiles.Spot> spots, SystemView view, List<ListWish.Edit> edits) {
    List<RandomFiles.Spot> more = new ArrayList<>();
    for (int p = 0; p < spots.size(); p++) {
      RandomFiles.Spot spot = spots.get(p);
      List<Ace> own = new ArrayList<>(spot.own());
      int resource = resource(view, spots, p);
      for (ListWish.Edit edit : edits) {
        boolean there =
            edit.resource() == resource && view.system().entryOf(resource, edit.text()).isPresent();
        if (edit.resource() == resource && !there) {
          assertThat(edit.added()).isTrue();
          own.add(entry(style, edit.text()));
        }
      }
      more.add(new RandomFiles.Spot(spot.above(), spot.folder(), own, spot.posix()));
    }
    return RandomFiles.decisions(RandomFiles.model(facts, RandomFiles.access(facts, style, more)));
  }

  private static Ace entry(FileStyle style, String text) {
    try {
      return style == FileStyle.SHARED
          ? org.sobercompass.core.descriptor.Sddl.readEntry(text, Optional.empty())
          : Nfs4Entry.of(text).ace();
    } catch (org.sobercompass.core.descriptor.MalformedException e) {
      throw new AssertionError(e);
    }
  }

  /** Read, write, execute and what follows from them, from the texts of all entries, by hand. */
  private Map<String, Verdict> byHand(AccessModel before, List<ListWish.Edit> edits) {
    SystemView view = before.systems().get(0);
    FileAccess system = (FileAccess) view.system();
    List<PosixList.Parts> parts = new ArrayList<>();
    Map<Integer, Integer> pathOf = new HashMap<>();
    for (int r = 0; r < view.resources().size(); r++) {
      pathOf.put(r, parts.size());
      PosixList list = (PosixList) system.facts().list(r).orElseThrow();
      parts.add(edited(list.parts(), edits, r));
    }
    List<RandomFiles.Spot> spots = new ArrayList<>();
    for (int r = 0; r < parts.size(); r++) {
      spots.add(
          new RandomFiles.Spot(
              view.resources().parent(r),
              system.facts().kind(r) == FileFacts.Kind.FOLDER,
              List.of(),
              parts.get(r)));
    }
    Map<String, Verdict> named = new HashMap<>();
    AccessModel made = RandomFiles.model(facts, RandomFiles.access(facts, FileStyle.POSIX, spots));
    SystemView other = made.systems().get(0);
    Map<String, Verdict> all = RandomFiles.decisions(made);
    for (int r = 0; r < parts.size(); r++) {
      String was = view.resources().id(r);
      String is = other.resources().id(other.resources().find(id(spots, r)).orElseThrow());
      for (int account = 0; account < ACCOUNTS; account++) {
        for (int right = 0; right < view.rights().size(); right++) {
          String text = view.rights().text(right);
          named.put(account + " " + was + " " + text, all.get(account + " " + is + " " + text));
        }
      }
    }
    return named;
  }

  private static PosixList.Parts edited(
      PosixList.Parts parts, List<ListWish.Edit> edits, int resource) {
    PosixList.Parts now = parts;
    for (ListWish.Edit edit : edits) {
      String text = edit.text();
      boolean named = text.matches("(user|group):[^:]+:...");
      if (edit.resource() == resource && text.startsWith("mask::")) {
        now =
            now.with(
                now.ownerMay(),
                now.groupMay(),
                now.otherMay(),
                PosixList.bits(text.substring(6)),
                of(now.users(), now.userMay()),
                of(now.groups(), now.groupsMay()));
      }
      if (edit.resource() == resource && named && edit.added()) {
        String[] words = text.split(":");
        boolean user = words[0].equals("user");
        int number = Integer.parseInt(words[1].substring(1));
        int trustee = user ? 1 + number : 1 + ACCOUNTS + number;
        int may = PosixList.bits(words[2]);
        int mask = (now.mask() < 0 ? now.groupMay() : now.mask()) | may;
        now =
            now.with(
                now.ownerMay(),
                now.groupMay(),
                now.otherMay(),
                mask,
                user
                    ? put(now.users(), now.userMay(), trustee, may)
                    : of(now.users(), now.userMay()),
                user
                    ? of(now.groups(), now.groupsMay())
                    : put(now.groups(), now.groupsMay(), trustee, may));
      }
    }
    return now;
  }

  private static PosixList.Named of(int[] who, int[] may) {
    return new PosixList.Named(who, may);
  }

  private static PosixList.Named put(int[] who, int[] may, int trustee, int permissions) {
    for (int i = 0; i < who.length; i++) {
      if (who[i] == trustee) {
        int[] other = may.clone();
        other[i] = permissions;
        return of(who, other);
      }
    }
    return of(who, may).plus(trustee, permissions);
  }

  /** What is taken is not given any more by an entry of theirs there. */
  @ParameterizedTest
  @EnumSource(FileStyle.class)
  void whatIsTakenIsGivenByNoEntryOfTheirsThere(FileStyle style) {
    int taken = 0;
    for (int seed = 0; seed < 150; seed++) {
      Random random = new Random(seed);
      AccessModel before =
          RandomFiles.model(
              facts, RandomFiles.access(facts, style, RandomFiles.spots(style, random)));
      SystemView view = before.systems().get(0);
      int who = random.nextInt(ACCOUNTS + GROUPS);
      int subject = who < ACCOUNTS ? who : facts.firstGroup() + who - ACCOUNTS;
      int right = random.nextInt(style == FileStyle.POSIX ? 3 : view.rights().size());
      ListWish wish =
          new ListWish(subject, random.nextInt(view.resources().size()), List.of(right), false);
      try {
        Proposal proposal = proposal(before, view.system().taking(wish));
        AccessModel after = before.with(proposal.on(before).changes());
        taken++;
        assertThatThrownBy(() -> after.systems().get(0).system().taking(wish))
            .hasMessageContaining("no entry at ");
      } catch (IllegalArgumentException e) {
        assertThat(e).hasMessageContaining("no entry at ");
      }
    }
    assertThat(taken).isGreaterThan(8);
  }

  /** Nothing names a leaver any more; whoever gets the same is named wherever the other is. */
  @ParameterizedTest
  @EnumSource(FileStyle.class)
  void entriesEndWithALeaverAndAreWrittenForAnother(FileStyle style) {
    int ended = 0;
    int written = 0;
    for (int seed = 0; seed < 150; seed++) {
      Random random = new Random(seed);
      AccessModel before =
          RandomFiles.model(
              facts, RandomFiles.access(facts, style, RandomFiles.spots(style, random)));
      int account = random.nextInt(ACCOUNTS);
      int other = (account + 1 + random.nextInt(ACCOUNTS - 1)) % ACCOUNTS;
      int group = facts.firstGroup() + random.nextInt(GROUPS);
      Proposal leaving = new ReadyMade(before).leaving(List.of(account));
      AccessModel left = before.with(made(leaving, before));
      assertThat(entries(new ReadyMade(left).leaving(List.of(account))))
          .as("seed " + seed)
          .isZero();
      ended += (int) entries(leaving);
      Proposal like = new ReadyMade(before).like(account, other);
      AccessModel alike = before.with(made(like, before));
      assertThat(entries(new ReadyMade(alike).like(account, other))).as("seed " + seed).isZero();
      written += (int) entries(like);
      Proposal byGroup = new ReadyMade(before).byGroup(group, List.of(account));
      AccessModel moved = before.with(made(byGroup, before));
      assertThat(entries(new ReadyMade(moved).leaving(List.of(account)))).isZero();
      assertThat(entries(byGroup)).isGreaterThanOrEqualTo(entries(leaving));
    }
    assertThat(ended).isGreaterThan(50);
    assertThat(written).isGreaterThan(50);
  }

  private static List<Change> made(Proposal proposal, AccessModel on) {
    Bound bound = proposal.on(on);
    assertThat(bound.isSound()).as(bound.notes().toString()).isTrue();
    return bound.changes();
  }

  private static long entries(Proposal proposal) {
    return proposal.steps().stream().filter(step -> step instanceof Step.ListItem).count();
  }

  @Test
  void whatNoEntryCanGiveSaysWhatWould() {
    AccessModel model =
        RandomFiles.model(
            facts,
            RandomFiles.access(
                facts, FileStyle.POSIX, RandomFiles.spots(FileStyle.POSIX, new Random(1))));
    SystemView view = model.systems().get(0);
    int delete = view.rights().find("delete").orElseThrow();
    int owner = view.rights().find("change-owner").orElseThrow();
    assertThatThrownBy(() -> view.system().giving(new ListWish(0, 1, List.of(delete), false)))
        .hasMessage("no entry gives delete: it takes create on the folder above");
    assertThatThrownBy(() -> view.system().giving(new ListWish(0, 1, List.of(owner), false)))
        .hasMessage("no entry gives change-owner: that is for the owner and the superuser");
    Step nobody = new Step.ListItem("x", "/p1", "user:nobody:r--", true);
    Step noEntry = new Step.ListItem("x", "/p1", "user:a1:read", true);
    Bound bound = new Proposal("", List.of(nobody, noEntry)).on(model);
    assertThat(bound.notes().get(0).what())
        .isEqualTo("nobody in the directories that it looks at has the user \"nobody\"");
    assertThat(bound.notes().get(1).what()).startsWith("\"user:a1:read\" is no entry of such a");
  }
}
