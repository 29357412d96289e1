package org.sobercompass.core.findings.lists;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.UUID;
import org.junit.jupiter.api.Test;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.admin.Administration;
import org.sobercompass.core.admin.Console;
import org.sobercompass.core.admin.Powers;
import org.sobercompass.core.audit.Findings;
import org.sobercompass.core.delegation.ActionRights;
import org.sobercompass.core.delegation.AdminAction;
import org.sobercompass.core.delegation.DirectoryTree;
import org.sobercompass.core.delegation.DirectoryTrees;
import org.sobercompass.core.delegation.DsNames;
import org.sobercompass.core.delegation.Origin;
import org.sobercompass.core.delegation.Requirement;
import org.sobercompass.core.delegation.TreeBuilder;
import org.sobercompass.core.descriptor.Ace;
import org.sobercompass.core.descriptor.AceType;
import org.sobercompass.core.descriptor.Descriptor;
import org.sobercompass.core.descriptor.DsRights;
import org.sobercompass.core.descriptor.WellKnown;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.FactsBuilder;
import org.sobercompass.core.facts.FactsBuilder.Space;
import org.sobercompass.core.facts.FactsSource;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.facts.SubjectRow;
import org.sobercompass.core.facts.Via;
import org.sobercompass.core.findings.Assessment;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.core.findings.FindingKind;
import org.sobercompass.core.findings.FindingRules;
import org.sobercompass.core.findings.Weight;
import org.sobercompass.core.findings.details.DelegationDetails;
import org.sobercompass.core.findings.details.Evidence;
import org.sobercompass.core.findings.details.ListDetails;
import org.sobercompass.core.person.Persons;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.core.system.AccessSystem;
import org.sobercompass.core.system.directory.DirectorySystem;
import org.sobercompass.core.system.remark.ListedEntry;

/** What is found of the lists of directory objects, as data. */
class DirectoryFindersTest {
  private static final String DOMAIN = "S-1-5-21-7-";
  private static final String STRANGER = "S-1-5-21-9-1";
  private static final String EARLIER = "S-1-5-21-8-1001";
  private static final List<String> ACCOUNTS = List.of("ann", "bo", "di");
  private static final List<String> GROUPS = List.of("crew", "hollow");

  /** The lists of objects: dc=x, ou=a below it, and the accounts and groups in that. */
  private final Map<String, List<Ace>> lists = new LinkedHashMap<>();

  private final Map<String, String> owners = new LinkedHashMap<>();
  private List<String> history = List.of();

  private static String sid(String name) {
    int at = ACCOUNTS.indexOf(name);
    return DOMAIN + (at >= 0 ? 1001 + at : 1101 + GROUPS.indexOf(name));
  }

  private static Ace allow(String trustee, int mask) {
    return Ace.of(AceType.ALLOW, 0, mask, trustee);
  }

  private static Facts facts() {
    FactsBuilder builder = new FactsBuilder(List.of(), dn -> dn, new Problems());
    FactsSource source = builder.source("d");
    for (String name : ACCOUNTS) {
      source.name(source.add(row(SubjectKind.ACCOUNT, name)), Space.LOGIN, name);
    }
    for (String name : GROUPS) {
      int group = source.add(row(SubjectKind.GROUP, name));
      if (name.equals("crew")) {
        source.refer(group, Via.MEMBER, Space.LOGIN, "ann");
        source.refer(group, Via.MEMBER, Space.LOGIN, "bo");
      }
    }
    return builder.build();
  }

  private static SubjectRow row(SubjectKind kind, String name) {
    String dn = dn(name);
    return new SubjectRow(kind, name, dn, dn, name, name, "", 0, Facts.NEVER);
  }

  private static String dn(String name) {
    return name.equals("x") ? "dc=x" : name.equals("a") ? "ou=a,dc=x" : "cn=" + name + ",ou=a,dc=x";
  }

  private DirectoryTree tree() {
    DsNames names = new DsNames();
    names.add(new DsNames.ObjectClass("top", new UUID(3, 0), "", Optional.empty()));
    names.add(new DsNames.ObjectClass("user", new UUID(3, 1), "top", Optional.empty()));
    names.whole();
    TreeBuilder builder = new TreeBuilder("d");
    List<String> all = new ArrayList<>(List.of("x", "a"));
    all.addAll(ACCOUNTS);
    all.addAll(GROUPS);
    for (String name : all) {
      Descriptor list =
          new Descriptor(
              0,
              Optional.ofNullable(owners.get(name)),
              Optional.empty(),
              Optional.of(lists.getOrDefault(name, List.of())),
              Optional.empty());
      boolean unit = name.length() == 1;
      builder.add(
          new TreeBuilder.Row(
              dn(name),
              dn(name),
              "user",
              Optional.of(list),
              unit ? "" : sid(name),
              name,
              name.equals("di") ? history : List.of(),
              false));
    }
    return builder.build(names);
  }

  private List<Finding> find(FindingKind kind) {
    Facts facts = facts();
    Administration administration =
        new Administration(
            List.of(
                new AdminAction("control", "control", List.of(), need(DsRights.WRITE_DAC), 2),
                new AdminAction("edit", "edit", List.of(), need(DsRights.WRITE_PROPERTY), 1),
                new AdminAction("see", "see", List.of(), need(DsRights.READ_PROPERTY), 0)),
            List.of(),
            List.of(),
            List.of(),
            Console.ANY,
            List.of());
    DirectoryTrees trees = new DirectoryTrees(facts, List.of(tree()));
    List<AccessSystem> delegated =
        List.copyOf(DirectorySystem.of(trees, new ActionRights(administration.actions())));
    AccessModel model =
        AccessModel.of(facts, List.of(), Instant.ofEpochSecond(1_000), Optional.empty())
            .delegating(delegated);
    Assessment assessment =
        new Assessment(
            model,
            FindingRules.of(List.of()),
            Persons.none(facts),
            new Powers(model, administration, trees),
            Assessment.Owned.NOBODY,
            List.of(),
            List.of());
    return Findings.of(assessment).stream().filter(f -> f.kind() == kind).toList();
  }

  private static Requirement need(int mask) {
    return new Requirement.Simple(mask);
  }

  private Finding only(FindingKind kind) {
    List<Finding> found = find(kind);
    assertThat(found).hasSize(1);
    return found.get(0);
  }

  @Test
  void whatAPersonWasDelegatedIsOneFindingForAllObjects() {
    lists.put("di", List.of(allow(sid("bo"), DsRights.WRITE_PROPERTY)));
    lists.put("a", List.of(allow(sid("bo"), DsRights.WRITE_DAC)));
    Finding finding = only(FindingKind.DIRECT_ASSIGNMENT);
    DelegationDetails.ToPerson about = (DelegationDetails.ToPerson) finding.details();
    assertThat(about.objects()).isEqualTo(2);
    assertThat(about.most().object()).isEqualTo("a");
    assertThat(about.most().may()).isEqualTo("control");
    assertThat(about.most().weight()).isEqualTo(2);
    assertThat(about.most().below()).isEqualTo(5);
    assertThat(finding.weight()).isEqualTo(Weight.MEDIUM);
    assertThat(finding.subjects()).hasSize(2);
    assertThat(finding.changes()).hasSize(2);
    assertThat(finding.evidence())
        .contains(new Evidence.DelegatedOn("d", "di", "edit", "bo", Origin.ADDED));
  }

  @Test
  void whatAGroupWasDelegatedIsAsItShouldBe() {
    lists.put("a", List.of(allow(sid("crew"), DsRights.WRITE_DAC)));
    assertThat(find(FindingKind.DIRECT_ASSIGNMENT)).isEmpty();
    assertThat(find(FindingKind.ASSIGNED_TO_EMPTY_GROUP)).isEmpty();
  }

  @Test
  void whatAnEmptyGroupAndANobodyWereDelegatedIsTold() {
    lists.put(
        "a",
        List.of(
            allow(sid("hollow"), DsRights.WRITE_PROPERTY), allow(STRANGER, DsRights.WRITE_DAC)));
    var empty =
        (DelegationDetails.ToEmptyGroup) only(FindingKind.ASSIGNED_TO_EMPTY_GROUP).details();
    assertThat(empty.most().trustee()).isEqualTo("hollow");
    Finding nobody = only(FindingKind.UNRESOLVED_TRUSTEE);
    assertThat(((DelegationDetails.ToNobody) nobody.details()).most().sid()).isEqualTo(STRANGER);
    assertThat(nobody.weight()).isEqualTo(Weight.LOW);
  }

  @Test
  void whatEveryoneWasDelegatedIsToldUnlessItIsLittle() {
    lists.put("x", List.of(allow(WellKnown.AUTHENTICATED, DsRights.WRITE_PROPERTY)));
    lists.put("a", List.of(allow(WellKnown.EVERYONE, DsRights.READ_PROPERTY)));
    Finding finding = only(FindingKind.ASSIGNED_TO_EVERYONE);
    DelegationDetails.ToEveryone about = (DelegationDetails.ToEveryone) finding.details();
    assertThat(about.reached()).isEqualTo(3);
    assertThat(about.most().object()).as("the whole directory").isEmpty();
    assertThat(finding.weight()).isEqualTo(Weight.MEDIUM);
  }

  @Test
  void anEntryThatClaimsToComeFromAboveIsTold() {
    Ace claimed = Ace.of(AceType.ALLOW, Ace.INHERITED, DsRights.WRITE_DAC, sid("crew"));
    lists.put("di", List.of(claimed));
    Finding finding = only(FindingKind.UNSUPPORTED_INHERITANCE);
    DelegationDetails.Claimed about = (DelegationDetails.Claimed) finding.details();
    assertThat(about.entries()).isEqualTo(1);
    assertThat(about.most().object()).isEqualTo("di");
    assertThat(finding.weight()).isEqualTo(Weight.MEDIUM);
    assertThat(finding.changes()).hasSize(1);
  }

  @Test
  void anEntryThatAnotherCoversIsRedundantUnlessSomethingIsDenied() {
    int wide = DsRights.WRITE_DAC | DsRights.WRITE_PROPERTY;
    Ace narrow = allow(sid("crew"), DsRights.WRITE_PROPERTY);
    lists.put("di", List.of(allow(sid("crew"), wide), narrow));
    Finding finding = only(FindingKind.REDUNDANT_ASSIGNMENT);
    ListDetails.CoveredEntry about = (ListDetails.CoveredEntry) finding.details();
    assertThat(about.object()).isEqualTo("di");
    assertThat(about.entry()).extracting(ListedEntry::trustee).isEqualTo("crew");
    assertThat(about.objects()).isEqualTo(1);
    assertThat(finding.evidence())
        .hasSize(2)
        .allMatch(one -> ((Evidence.EntryFrom) one).origin() == Origin.ADDED);
    Ace deny = Ace.of(AceType.DENY, 0, DsRights.WRITE_PROPERTY, sid("ann"));
    lists.put("di", List.of(deny, allow(sid("crew"), wide), narrow));
    assertThat(find(FindingKind.REDUNDANT_ASSIGNMENT)).isEmpty();
  }

  @Test
  void ofTwoEqualEntriesTheLaterIsRedundant() {
    Ace one = allow(sid("crew"), DsRights.WRITE_PROPERTY);
    lists.put("di", List.of(one, one));
    assertThat(find(FindingKind.REDUNDANT_ASSIGNMENT)).hasSize(1);
  }

  @Test
  void whatTheListAboveHandsOnAndDidNotArriveIsTold() {
    Ace handed = Ace.of(AceType.ALLOW, Ace.CHILDREN, DsRights.WRITE_PROPERTY, sid("crew"));
    lists.put("a", List.of(handed));
    for (String name : List.of("ann", "bo", "crew", "hollow")) {
      lists.put(
          name, List.of(handed.with(Ace.CHILDREN | Ace.INHERITED, handed.mask(), sid("crew"))));
    }
    Finding finding = only(FindingKind.INHERITANCE_NOT_APPLIED);
    ListDetails.NotHandedOn about = (ListDetails.NotHandedOn) finding.details();
    assertThat(List.of(about.object(), about.above())).containsExactly("di", "a");
    assertThat(List.of(about.missing(), about.objects())).containsExactly(1, 1);
    assertThat(finding.evidence()).containsExactly(new Evidence.MissingEntry(about.first()));
  }

  @Test
  void anOrderThatDecidesIsTold() {
    Ace deny = Ace.of(AceType.DENY, 0, DsRights.WRITE_PROPERTY, sid("bo"));
    lists.put("di", List.of(allow(sid("crew"), DsRights.WRITE_PROPERTY), deny));
    Finding finding = only(FindingKind.ENTRY_ORDER);
    assertThat(finding.details()).isEqualTo(new ListDetails.Order("di", 1, 1));
    assertThat(finding.evidence()).containsExactly(new Evidence.ByOrder(1, true, "edit"));
    lists.put("di", List.of(deny, allow(sid("crew"), DsRights.WRITE_PROPERTY)));
    assertThat(find(FindingKind.ENTRY_ORDER)).isEmpty();
  }

  @Test
  void aPersonWhoOwnsObjectsIsToldUnlessOwnersAreLimited() {
    owners.put("a", sid("bo"));
    owners.put("di", sid("bo"));
    Finding finding = only(FindingKind.OWNER_NOT_ADMINISTRATOR);
    ListDetails.PersonOwns about = (ListDetails.PersonOwns) finding.details();
    assertThat(List.of(about.object(), about.objects(), about.below())).containsExactly("a", 2, 5);
    lists.put("a", List.of(allow(WellKnown.OWNER_RIGHTS, DsRights.READ_PROPERTY)));
    about = (ListDetails.PersonOwns) only(FindingKind.OWNER_NOT_ADMINISTRATOR).details();
    assertThat(List.of(about.object(), about.objects())).containsExactly("di", 1);
  }

  @Test
  void anIdFromAnEarlierDirectoryThatIsStillNamedIsTold() {
    history = List.of(EARLIER);
    assertThat(find(FindingKind.FORMER_ID)).isEmpty();
    lists.put("a", List.of(allow(EARLIER, DsRights.WRITE_PROPERTY)));
    Finding finding = only(FindingKind.FORMER_ID);
    assertThat(finding.details()).isEqualTo(new ListDetails.FormerId(EARLIER, "di", 1));
    assertThat(finding.evidence()).containsExactly(new Evidence.NamesFormerId("a", EARLIER));
  }
}
