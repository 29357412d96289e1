package org.sobercompass.core.system.files;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.contract.SmallFacts;
import org.sobercompass.core.descriptor.Ace;
import org.sobercompass.core.descriptor.AceType;
import org.sobercompass.core.descriptor.Descriptor;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.proposal.AsIn;
import org.sobercompass.core.proposal.Bound;
import org.sobercompass.core.proposal.Proposal;
import org.sobercompass.core.proposal.Step;
import org.sobercompass.core.system.Redefinition;
import org.sobercompass.core.system.Trustees;

/** Owners of NFSv4 lists, and the lists of shares themselves, changed and made new. */
class OwnersAndSharesTest {
  private static final int SEEDS = 120;

  private final Facts facts = RandomFiles.facts();

  /** What the owner, the owning group and everybody may, at a folder and a file in it. */
  private FileAccess nfs4(Random random, int owner, int group) {
    FileFacts.Builder into =
        new FileFacts.Builder(FileStyle.NFS4, RandomFiles.trustees(facts, FileStyle.NFS4));
    for (int p = 0; p < 2; p++) {
      int node = p == 0 ? 0 : into.paths().child(0, "f".getBytes(StandardCharsets.UTF_8));
      List<Ace> entries = new ArrayList<>();
      List<Integer> named = new ArrayList<>();
      for (String who : List.of("OWNER@", "GROUP@", "EVERYONE@", "OWNER@")) {
        AceType type = random.nextInt(4) == 0 ? AceType.DENY : AceType.ALLOW;
        int mask = random.nextBoolean() ? FileRights.READ | FileRights.EXECUTE : FileRights.CHANGE;
        entries.add(Ace.of(type, 0, mask, who));
        named.add(
            who.equals("EVERYONE@")
                ? Trustees.EVERYONE
                : who.equals("GROUP@") ? 1 + RandomFiles.ACCOUNTS + group : 1 + owner);
      }
      Descriptor list =
          new Descriptor(
              Descriptor.DACL_PRESENT,
              Optional.of("a" + owner),
              Optional.of("g" + group),
              Optional.of(entries),
              Optional.empty());
      int[] numbers = named.stream().mapToInt(Integer::intValue).toArray();
      into.put(node, p == 0, into.list(list, 1 + owner, numbers));
    }
    return RandomFiles.access(facts, into.build());
  }

  private static Proposal owned(String at, String was, String is) {
    return new Proposal(
        "", List.of(new Step.ListItem("x", at, was, false), new Step.ListItem("x", at, is, true)));
  }

  @Test
  void ownedBySomebodyElseIsAsIfItHadAlwaysBeenSo() {
    int differed = 0;
    for (int seed = 0; seed < SEEDS; seed++) {
      int owner = seed % RandomFiles.ACCOUNTS;
      int other = (owner + 1 + seed % 3) % RandomFiles.ACCOUNTS;
      int group = seed % RandomFiles.GROUPS;
      int otherGroup = (group + 1) % RandomFiles.GROUPS;
      AccessModel before = RandomFiles.model(facts, nfs4(new Random(seed), owner, group));
      AccessModel wanted = RandomFiles.model(facts, nfs4(new Random(seed), other, otherGroup));
      Proposal proposal = new Proposal("", List.of());
      for (String at : before.systems().get(0).resources().ids()) {
        proposal =
            proposal
                .then(owned(at, "owner:a" + owner, "owner:a" + other))
                .then(owned(at, "owning-group:g" + group, "owning-group:g" + otherGroup));
      }
      Bound bound = proposal.on(before);
      assertThat(bound.notes()).as("seed " + seed).isEmpty();
      AccessModel after = before.with(bound.changes());
      assertThat(RandomFiles.decisions(after))
          .as("seed " + seed)
          .isEqualTo(RandomFiles.decisions(wanted));
      // A survey in which they are otherwise is told in the same steps.
      assertThat(AsIn.of(before, wanted).proposal().steps())
          .as("seed " + seed)
          .hasSameElementsAs(proposal.steps());
      assertThat(after.with(proposal.inverse().on(after).changes()))
          .satisfies(
              back ->
                  assertThat(RandomFiles.decisions(back)).isEqualTo(RandomFiles.decisions(before)));
      differed += RandomFiles.decisions(after).equals(RandomFiles.decisions(before)) ? 0 : 1;
    }
    assertThat(differed).isGreaterThan(SEEDS / 2);
  }

  @Test
  void nobodyOwnsWhoIsNotThere() {
    AccessModel model = RandomFiles.model(facts, nfs4(new Random(1), 0, 0));
    String at = model.systems().get(0).resources().id(0);
    assertThat(owned(at, "owner:a0", "owner:nobody").on(model).notes())
        .extracting(Bound.Note::what)
        .anyMatch(what -> what.contains("nobody in the directories"));
    assertThat(owned(at, "owner:a0", "owner:a0").on(model).changes()).isEmpty();
  }

  private static Ace random(Random random) {
    AceType type = random.nextInt(3) == 0 ? AceType.DENY : AceType.ALLOW;
    int mask = random.nextBoolean() ? FileRights.READ : FileRights.CHANGE;
    int who = random.nextInt(RandomFiles.ACCOUNTS + RandomFiles.GROUPS);
    return Ace.of(type, 0, mask, RandomFiles.sid(FileStyle.SHARED, who));
  }

  /** A folder that everybody may change, behind a share with a list of its own. */
  private FileAccess shared(List<Ace> ofShare) {
    FileFacts.Builder into =
        new FileFacts.Builder(FileStyle.SHARED, RandomFiles.trustees(facts, FileStyle.SHARED));
    List<Ace> open = new ArrayList<>();
    int[] named = new int[RandomFiles.ACCOUNTS];
    for (int a = 0; a < RandomFiles.ACCOUNTS; a++) {
      open.add(Ace.of(AceType.ALLOW, 0, FileRights.FULL, RandomFiles.sid(FileStyle.SHARED, a)));
      named[a] = 1 + a;
    }
    into.put(0, true, into.list(RandomFiles.descriptor(FileStyle.SHARED, open), 1, named));
    int[] numbers =
        ofShare.stream().mapToInt(a -> RandomFiles.number(FileStyle.SHARED, a.trustee())).toArray();
    Descriptor list =
        new Descriptor(
            Descriptor.DACL_PRESENT,
            Optional.empty(),
            Optional.empty(),
            Optional.of(ofShare),
            Optional.empty());
    into.share("field data", 0, into.shareList(list, numbers));
    return RandomFiles.access(facts, into.build());
  }

  private String text(FileAccess access, Ace ace) {
    return new ShareEntry(
            "field data",
            new OrderedForm.Shared(
                    access.facts().trustees(),
                    new FileTrustees(facts, SmallFacts.sight(true), FileStyle.SHARED))
                .written(ace))
        .text();
  }

  @Test
  void anEntryOfAShareIsAddedAndTakenOut() {
    int differed = 0;
    for (int seed = 0; seed < SEEDS; seed++) {
      Random random = new Random(seed);
      List<Ace> without = new ArrayList<>();
      for (int i = random.nextInt(3); i > 0; i--) {
        without.add(random(random));
      }
      without.sort((a, b) -> Boolean.compare(b.denies(), a.denies()));
      Ace more = random(random);
      if (without.contains(more)) {
        continue;
      }
      List<Ace> with = new ArrayList<>(without);
      with.add(more);
      with.sort((a, b) -> Boolean.compare(b.denies(), a.denies()));
      AccessModel before = RandomFiles.model(facts, shared(without));
      AccessModel wanted = RandomFiles.model(facts, shared(with));
      String at = before.systems().get(0).resources().id(0);
      Step adds = new Step.ListItem("x", at, text(shared(without), more), true);
      Proposal proposal = new Proposal("", List.of(adds));
      Bound bound = proposal.on(before);
      assertThat(bound.notes()).as("seed " + seed).isEmpty();
      assertThat(RandomFiles.decisions(before.with(bound.changes())))
          .as("seed " + seed)
          .isEqualTo(RandomFiles.decisions(wanted));
      assertThat(RandomFiles.decisions(wanted.with(proposal.inverse().on(wanted).changes())))
          .as("taken out, seed " + seed)
          .isEqualTo(RandomFiles.decisions(before));
      assertThat(proposal.on(wanted).notes())
          .extracting(Bound.Note::kind)
          .containsExactly(Bound.Kind.ALREADY);
      differed += RandomFiles.decisions(wanted).equals(RandomFiles.decisions(before)) ? 0 : 1;
    }
    assertThat(differed).isGreaterThan(SEEDS / 3);
  }

  @Test
  void aShareThatIsNotThereIsTold() {
    FileAccess access = shared(List.of());
    assertThatThrownBy(
            () ->
                access.redefined(
                    new Redefinition.ListItem(0, "share other (A;;FA;;;S-1-5-21-1-1000)")))
        .isInstanceOf(IllegalArgumentException.class)
        .hasMessageContaining("there is no share other of")
        .hasMessageContaining("field data of");
    assertThat(ShareEntry.of("(A;;FA;;;S-1-5-21-1-1000)")).isEmpty();
    assertThat(ShareEntry.of("share a (b) (A;;FA;;;S-1-5-21-1-1000)"))
        .contains(new ShareEntry("a (b)", "(A;;FA;;;S-1-5-21-1-1000)"));
    assertThat(access.entryWords("share field data (A;;FA;;;S-1-5-21-1-1000)"))
        .isEqualTo("full for a0, of the share field data");
  }
}
