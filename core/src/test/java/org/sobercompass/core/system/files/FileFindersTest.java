package org.sobercompass.core.system.files;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.audit.Findings;
import org.sobercompass.core.descriptor.Ace;
import org.sobercompass.core.descriptor.AceType;
import org.sobercompass.core.descriptor.Descriptor;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.findings.Assessment;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.core.findings.FindingKind;
import org.sobercompass.core.findings.FindingRules;
import org.sobercompass.core.findings.details.Evidence;
import org.sobercompass.core.findings.details.ListDetails;
import org.sobercompass.core.system.Trustees;
import org.sobercompass.core.system.remark.Remarked;
import org.sobercompass.core.system.remark.RemarkedFiles;

/** What is found of lists of files, as data: what lists say, and places open to everyone. */
class FileFindersTest {
  private static final int READ = FileRights.READ;
  private static final int CHANGE = FileRights.CHANGE;

  private final Facts facts = RandomFiles.facts();

  /** By path the list; folders end in a slash. */
  private final Map<String, List<Ace>> lists = new LinkedHashMap<>();

  private static Ace allow(String who, int mask) {
    return Ace.of(AceType.ALLOW, 0, mask, who);
  }

  private static int number(String who) {
    return who.equals("EVERYONE@")
        ? Trustees.EVERYONE
        : who.startsWith("a")
            ? 1 + Integer.parseInt(who.substring(1))
            : 1 + RandomFiles.ACCOUNTS + Integer.parseInt(who.substring(1));
  }

  private AccessModel model() {
    FileFacts.Builder into =
        new FileFacts.Builder(FileStyle.NFS4, RandomFiles.trustees(facts, FileStyle.NFS4));
    Map<String, Integer> nodes = new LinkedHashMap<>(Map.of("/", 0));
    List<String> paths = new ArrayList<>(lists.keySet());
    paths.sort(null);
    for (String path : paths) {
      boolean folder = path.endsWith("/");
      String plain = folder && path.length() > 1 ? path.substring(0, path.length() - 1) : path;
      int cut = plain.lastIndexOf('/');
      int node =
          path.equals("/")
              ? 0
              : into.paths()
                  .child(
                      nodes.getOrDefault(plain.substring(0, cut + 1), 0),
                      plain.substring(cut + 1).getBytes(StandardCharsets.UTF_8));
      nodes.put(path, node);
      List<Ace> entries = lists.getOrDefault(path, List.of());
      Descriptor list =
          new Descriptor(
              Descriptor.DACL_PRESENT,
              Optional.of("a0"),
              Optional.of("g0"),
              Optional.of(entries),
              Optional.empty());
      int[] numbers = entries.stream().mapToInt(ace -> number(ace.trustee())).toArray();
      into.put(node, folder, into.list(list, 1, numbers));
    }
    return RandomFiles.model(facts, RandomFiles.access(facts, into.build()));
  }

  private List<Finding> find(FindingKind kind, String... sensitive) {
    FindingRules rules = new FindingRules.Builder().sensitive(Set.of(sensitive)).build();
    return Findings.of(Assessment.of(model(), List.of()).by(rules)).stream()
        .filter(finding -> finding.kind() == kind)
        .toList();
  }

  private static Remarked remarked(Finding finding) {
    return ((ListDetails.OfSystem) finding.details()).remark().about();
  }

  /** Six folders with a file each, of which everybody may read some. */
  private void folders(int open) {
    lists.put("/", List.of(allow("g0", READ), allow("EVERYONE@", FileRights.EXECUTE)));
    for (int i = 0; i < 6; i++) {
      lists.put("/f" + i + "/", List.of(allow(i < open ? "EVERYONE@" : "g0", READ)));
      lists.put("/f" + i + "/x", List.of(allow("g0", READ)));
    }
  }

  @Test
  void aFolderThatIsOpenWhereHardlyAnyOtherIsStandsOut() {
    folders(1);
    List<Finding> found = find(FindingKind.READABLE_BY_EVERYONE);
    assertThat(found).hasSize(1);
    assertThat(found.get(0).details()).isEqualTo(new ListDetails.OpenToAll(0, "/f0", 5, 6));
    assertThat(found.get(0).evidence().get(0)).isInstanceOf(Evidence.OpenPlace.class);
    assertThat(found.get(0).subjects()).isEmpty();
  }

  @Test
  void twoOfSixAreNotHardlyAny() {
    folders(2);
    assertThat(find(FindingKind.READABLE_BY_EVERYONE)).isEmpty();
  }

  @Test
  void whatTheWorkspaceCallsSensitiveIsToldOnceAndFirst() {
    folders(1);
    List<Finding> found = find(FindingKind.READABLE_BY_EVERYONE, "x:/f0", "x:/f1", "y:/f0");
    assertThat(found).hasSize(1);
    assertThat(found.get(0).details()).isEqualTo(new ListDetails.OpenToAll(0, "/f0", 0, 0));
  }

  @Test
  void allEntriesOfAPersonAreOneFindingAndEndTogether() {
    lists.put("/", List.of(allow("a1", READ), allow("g0", READ)));
    lists.put("/d/", List.of(allow("a1", CHANGE)));
    List<Finding> found = find(FindingKind.DIRECT_ENTRY);
    assertThat(found).hasSize(1);
    RemarkedFiles.ForPerson about = (RemarkedFiles.ForPerson) remarked(found.get(0));
    assertThat(about.more()).isEqualTo(1);
    assertThat(about.entry().trustee()).isEqualTo(facts.label(1));
    assertThat(found.get(0).changes()).hasSize(2);
    assertThat(found.get(0).subjects()).containsExactly(facts.key(1));
  }

  @Test
  void anEntryOfTheOwnerIsNoEntryForAPerson() {
    lists.put("/", List.of(allow("a0", READ)));
    assertThat(find(FindingKind.DIRECT_ENTRY)).isEmpty();
  }

  @Test
  void aDenyAfterAnAllowOfTheSameIsTold() {
    Ace deny = Ace.of(AceType.DENY, 0, CHANGE, "g1");
    lists.put("/", List.of(allow("g1", READ), deny));
    List<Finding> found = find(FindingKind.ENTRY_ORDER);
    assertThat(found).hasSize(1);
    RemarkedFiles.DenyAfterAllow about = (RemarkedFiles.DenyAfterAllow) remarked(found.get(0));
    assertThat(about.deny().trustee()).isEqualTo(about.allow().trustee());
    assertThat(found.get(0).evidence()).hasSize(2);
    lists.put("/", List.of(deny, allow("g1", READ)));
    assertThat(find(FindingKind.ENTRY_ORDER)).isEmpty();
  }

  @Test
  void whatEveryoneMayWriteIsToldAtItsTopWithHowManyPathsBelow() {
    lists.put("/", List.of(allow("g0", READ)));
    lists.put("/d/", List.of(allow("EVERYONE@", CHANGE)));
    lists.put("/d/x", List.of(allow("EVERYONE@", CHANGE)));
    lists.put("/e", List.of(allow("EVERYONE@", READ)));
    List<Finding> found = find(FindingKind.WRITABLE_BY_EVERYONE);
    assertThat(found).as("what is searched above lets nobody in").isEmpty();
    lists.put("/", List.of(allow("EVERYONE@", READ | FileRights.EXECUTE)));
    found = find(FindingKind.WRITABLE_BY_EVERYONE);
    assertThat(found).hasSize(1);
    assertThat(remarked(found.get(0))).isEqualTo(new RemarkedFiles.WritableByAll());
    assertThat(((ListDetails.OfSystem) found.get(0).details()).remark().also()).isEqualTo(1);
    assertThat(found.get(0).changes()).hasSize(1);
  }
}
