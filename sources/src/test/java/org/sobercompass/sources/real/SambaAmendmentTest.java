package org.sobercompass.sources.real;

import static org.assertj.core.api.Assertions.assertThat;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import com.unboundid.ldap.sdk.Attribute;
import com.unboundid.ldap.sdk.LDAPConnection;
import com.unboundid.ldap.sdk.LDAPException;
import com.unboundid.ldap.sdk.Modification;
import com.unboundid.ldap.sdk.ModificationType;
import com.unboundid.ldap.sdk.SearchRequest;
import com.unboundid.ldap.sdk.SearchResultEntry;
import com.unboundid.ldap.sdk.SearchScope;
import com.unboundid.util.Base64;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.amendment.Work;
import org.sobercompass.core.delegation.DirectoryLists;
import org.sobercompass.core.delegation.DirectoryTree;
import org.sobercompass.core.descriptor.Ace;
import org.sobercompass.core.descriptor.AceType;
import org.sobercompass.core.descriptor.Descriptor;
import org.sobercompass.core.descriptor.Sddl;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.Via;
import org.sobercompass.core.proposal.AsIn;
import org.sobercompass.core.proposal.Proposal;
import org.sobercompass.core.proposal.ReadyMade;
import org.sobercompass.core.proposal.Step;
import org.sobercompass.core.system.Change;
import org.sobercompass.core.system.ListWish;
import org.sobercompass.organization.Organization;
import org.sobercompass.sources.Secret;
import org.sobercompass.sources.TargetKind;
import org.sobercompass.sources.workspace.Surveyor;

/** Amendments are carried out on a real domain controller: lists of objects, members, accounts. */
class SambaAmendmentTest {
  private static final String SITES = "OU=Sites," + SambaDc.SUFFIX;

  @TempDir static Path folder;
  private static SambaDc dc;
  private static LDAPConnection connection;
  private static SambaTree tree;
  private static Path workspace;
  private static int made;

  @BeforeAll
  static void start() throws Exception {
    String missing = SambaDc.missing();
    assumeTrue(missing.isEmpty(), missing);
    dc = SambaDc.start(Files.createDirectory(folder.resolve("dc")));
    connection = dc.connect();
    Random random = new Random(6);
    tree = new SambaTree(connection, SITES, "Seeds4All.");
    tree.fill(random);
    tree.delegate(random, folder.resolve("smb.none"));
    workspace = Files.createDirectory(folder.resolve("live"));
    Files.writeString(
        workspace.resolve("compass.yaml"),
        "directories:\n  main:\n    kind: ad\n    address: ldaps://127.0.0.1\n    ca: \""
            + dc.ca()
            + "\"\n    bind: \""
            + SambaDc.ADMIN
            + "\"\n    password: {env: PASSWORD}\n");
  }

  @AfterAll
  static void stop() {
    if (dc != null) {
      connection.close();
      dc.close();
    }
  }

  private static Organization read() {
    new Surveyor(
            new Secret.Origins(name -> Optional.of(SambaDc.PASSWORD), q -> Optional.empty()),
            Clock.systemUTC(),
            (source, count) -> {})
        .take(workspace, List.of(), Optional.empty());
    return Organization.open(workspace);
  }

  /** Members, flags, ends and the lists of all objects, byte for byte. */
  private static Map<String, Set<String>> dump() throws LDAPException {
    Map<String, Set<String>> all = new TreeMap<>();
    SearchRequest request =
        new SearchRequest(
            SITES,
            SearchScope.SUB,
            "(objectClass=*)",
            "member",
            "userAccountControl",
            "accountExpires",
            "nTSecurityDescriptor");
    request.addControl(SambaTree.lists(7));
    for (SearchResultEntry entry : connection.search(request).getSearchEntries()) {
      Set<String> values = new TreeSet<>();
      for (Attribute attribute : entry.getAttributes()) {
        for (byte[] value : attribute.getValueByteArrays()) {
          values.add(attribute.getName() + ": " + Base64.encode(value));
        }
      }
      all.put(entry.getDN(), values);
    }
    return all;
  }

  private static TargetKind.Door door() {
    return new TargetKind.Door(
        "main",
        "ldaps://127.0.0.1",
        Optional.of(SambaDc.ADMIN),
        Optional.of(new Secret.Environment("PASSWORD")),
        false,
        Optional.of(dc.ca()));
  }

  private static Amended amend(Organization from, Proposal proposal) {
    return Amended.of(from, proposal, folder.resolve("a" + made++), door(), SambaDc.PASSWORD);
  }

  /** Members out, accounts disabled and given an end. */
  private static List<Change> ofAccounts(Organization from, Random random) {
    Facts facts = from.model().facts();
    List<Change> changes = new ArrayList<>();
    for (int account = 0; account < facts.accounts(); account++) {
      boolean ours = facts.dn(account).endsWith(SITES) && random.nextInt(3) == 0;
      for (int i = 0; ours && i < from.model().graph().upCount(account); i++) {
        if (from.model().graph().upVia(account, i) == Via.MEMBER) {
          int group = from.model().graph().upGroup(account, i);
          changes.add(new Change.MembershipRemoved(account, group, Via.MEMBER));
        }
      }
      if (ours) {
        long end = Instant.parse("2031-03-04T05:06:07Z").getEpochSecond();
        boolean disabled = facts.is(account, Facts.DISABLED);
        changes.add(new Change.AccountChanged(account, Optional.of(!disabled), Optional.empty()));
        changes.add(new Change.AccountChanged(account, Optional.empty(), Optional.of(end)));
      }
    }
    return changes;
  }

  @Test
  void membersFlagsAndEndsAreChangedAndAreBackAfterwards() throws Exception {
    Organization before = read();
    Map<String, Set<String>> all = dump();
    List<Change> changes = ofAccounts(before, new Random(3));
    Proposal proposal = Proposal.of("", before.assessment().model(), changes);
    assertThat(changes).hasSizeGreaterThan(40);
    Amended amended = amend(before, proposal);
    Work work = amended.carryOut();
    assertThat(work.isWhole()).as(work.failed() + work.stopped()).isTrue();
    Amended.assertDone(before, read(), proposal);
    assertThat(amended.undo().isWhole()).isTrue();
    assertThat(dump()).isEqualTo(all);
  }

  /** Without what only the directory gives: ids, and the list that a new object begins with. */
  private static Map<String, Set<String>> withoutLists(
      Map<String, Set<String>> all, Set<String> of) {
    Map<String, Set<String>> left = new TreeMap<>(all);
    left.replaceAll(
        (dn, values) -> {
          Set<String> own = new TreeSet<>(values);
          own.removeIf(value -> of.contains(dn) && value.startsWith("nTSecurityDescriptor"));
          return own;
        });
    return left;
  }

  @Test
  void groupsAreCreatedAndAccountsAndGroupsDeletedAndAllIsThereAgainAfterTheUndo()
      throws Exception {
    Organization before = read();
    Map<String, Set<String>> all = dump();
    Facts facts = before.model().facts();
    List<Integer> users = new ArrayList<>();
    List<Integer> groups = new ArrayList<>();
    for (int subject = 0; subject < facts.firstGroup() + facts.groups(); subject++) {
      if (facts.dn(subject).endsWith(SITES)) {
        (subject < facts.accounts() ? users : groups).add(subject);
      }
    }
    Step.Presence group = before.groupLike("night keepers", facts.key(groups.get(0)));
    List<Step> steps =
        new ArrayList<>(
            ReadyMade.creating(group, List.of(facts.key(users.get(0)), facts.key(groups.get(1))))
                .steps());
    List<Integer> gone = List.of(users.get(3), users.get(7), groups.get(2));
    steps.addAll(new ReadyMade(before.assessment().model()).deleting(gone).steps());
    Proposal proposal = new Proposal("", steps);
    Amended amended = amend(before, proposal);
    Work work = amended.carryOut();
    assertThat(work.isWhole()).as(work.failed() + work.stopped()).isTrue();

    Organization after = read();
    Facts now = after.model().facts();
    int created = after.names().group("night keepers");
    assertThat(after.model().graph().downCount(created)).isEqualTo(2);
    assertThat(now.dn(created)).isEqualTo(group.dn());
    for (int one : gone) {
      assertThat(now.find(facts.key(one))).isEmpty();
    }
    assertThat(now.accounts()).isEqualTo(facts.accounts() - 2);

    Work back = amended.undo();
    Set<String> again = new TreeSet<>();
    gone.forEach(one -> again.add(facts.dn(one)));
    // An account that is created without a password cannot be enabled; the rest is as it was.
    assertThat(back.failed())
        .as(back.stopped())
        .allMatch(failure -> failure.record().place().startsWith("CN="));
    Map<String, Set<String>> undone = dump();
    assertThat(undone.keySet()).as(back.failed() + back.stopped()).isEqualTo(all.keySet());
    assertThat(withoutLists(undone, again)).isEqualTo(withoutLists(all, again));
  }

  /** Entries that stand at an object itself, of lists that others may inherit from. */
  private static List<Change> ofLists(Organization from, Random random, int most) {
    SystemView view =
        from.assessment().model().delegated().stream()
            .filter(v -> v.system() instanceof DirectoryLists)
            .findFirst()
            .orElseThrow();
    DirectoryLists lists = (DirectoryLists) view.system();
    List<Change> changes = new ArrayList<>();
    for (int g = 0; g < view.grants().size() && changes.size() < most; g++) {
      int object = view.grants().get(g).resource();
      boolean stands = view.system().entry(g).isPresent() && !view.grants().get(g).isWithdrawn();
      if (stands && lists.tree().dn(object).endsWith(SITES) && random.nextInt(12) == 0) {
        int entry = view.system().entry(g).getAsInt();
        Ace ace = lists.tree().descriptor(object).orElseThrow().entries().get(entry);
        if (!ace.isInherited()) {
          changes.add(new Change.AssignmentRemoved(view.number(), g));
        }
      }
    }
    return changes;
  }

  @Test
  void entriesOfListsAreTakenOutAndAreBackByteForByte() throws Exception {
    Random random = new Random(11);
    for (int round = 0; round < 4; round++) {
      Organization before = read();
      Map<String, Set<String>> all = dump();
      List<Change> changes = ofLists(before, random, 12);
      assertThat(changes).isNotEmpty();
      Proposal proposal = Proposal.of("", before.assessment().model(), changes);
      Amended amended = amend(before, proposal);
      Work work = amended.carryOut();
      assertThat(work.isWhole()).as(work.failed() + work.stopped()).isTrue();
      // The server took back what had been handed on; so nothing is left to be done.
      AsIn.Answer left =
          AsIn.of(
              before.assessment().model().with(proposal.on(before.assessment().model()).changes()),
              read().assessment().model());
      assertThat(left.proposal().steps()).isEmpty();
      assertThat(amended.undo().isWhole()).isTrue();
      assertThat(dump()).isEqualTo(all);
    }
  }

  private static SystemView lists(Organization of) {
    return of.assessment().model().delegated().stream()
        .filter(v -> v.system() instanceof DirectoryLists)
        .findFirst()
        .orElseThrow();
  }

  /** Admin actions that are given to users and groups, on some objects and below some. */
  private static Proposal given(Organization from, Random random) {
    SystemView view = lists(from);
    DirectoryLists lists = (DirectoryLists) view.system();
    Facts facts = from.model().facts();
    Set<Step> steps = new LinkedHashSet<>();
    while (steps.size() < 12) {
      int object = random.nextInt(view.resources().size());
      int subject = random.nextInt(facts.firstGroup() + facts.groups());
      int action = random.nextInt(view.rights().size());
      if (lists.tree().dn(object).endsWith(SITES) && facts.dn(subject).endsWith(SITES)) {
        try {
          ListWish wish = new ListWish(subject, object, List.of(action), random.nextInt(3) > 0);
          for (ListWish.Edit edit : view.system().giving(wish)) {
            String at = view.resources().id(edit.resource());
            steps.add(new Step.ListItem(view.id(), at, edit.text(), edit.added()));
          }
        } catch (IllegalArgumentException e) {
          assertThat(e).hasMessageMatching(".+");
        }
      }
    }
    return new Proposal("", List.copyOf(steps));
  }

  /** The list of each object, in order. */
  private static Map<String, String> texts(SystemView view) {
    DirectoryTree tree = ((DirectoryLists) view.system()).tree();
    Map<String, String> texts = new TreeMap<>();
    for (int object = 0; object < tree.size(); object++) {
      if (tree.dn(object).endsWith(SITES)) {
        texts.put(tree.dn(object), tree.descriptor(object).map(d -> Sddl.text(d)).orElse("unread"));
      }
    }
    return texts;
  }

  @Test
  void whatIsGivenIsHandedOnAsThePreviewSaidAndIsTakenBackByteForByte() throws Exception {
    Random random = new Random(12);
    for (int round = 0; round < 6; round++) {
      Organization before = read();
      Map<String, Set<String>> all = dump();
      Proposal proposal = given(before, random);
      List<Change> changes = proposal.on(before.assessment().model()).changes();
      assertThat(changes).hasSizeGreaterThan(6);
      Amended amended = amend(before, proposal);
      Work work = amended.carryOut();
      assertThat(work.isWhole()).as(work.failed() + work.stopped()).isTrue();
      SystemView foretold =
          before.assessment().model().with(changes).delegated().stream()
              .filter(v -> v.id().equals(lists(before).id()))
              .findFirst()
              .orElseThrow();
      assertThat(texts(lists(read()))).isEqualTo(texts(foretold));
      assertThat(amended.undo().isWhole()).isTrue();
      assertThat(dump()).isEqualTo(all);
    }
  }

  @Test
  void aListThatSomebodyElseChangedIsLeftAlone() throws Exception {
    Organization before = read();
    Amended amended =
        amend(
            before,
            Proposal.of("", before.assessment().model(), ofLists(before, new Random(2), 1)));
    String dn = amended.records().get(0).place();
    Descriptor was = tree.descriptor(dn);
    List<Ace> more = new ArrayList<>(was.entries());
    more.add(0, Ace.of(AceType.ALLOW, 0, 0x10, "S-1-5-32-544"));
    tree.write(dn, was.with(more));
    try {
      Map<String, Set<String>> now = dump();
      Work work = amended.carryOut();
      assertThat(work.failed().get(0).why()).isEqualTo("the list is another than was read");
      assertThat(dump()).isEqualTo(now);
    } finally {
      tree.write(dn, was);
    }
  }

  @Test
  void flagsThatSomebodyElseChangedAreLeftAlone() throws Exception {
    Organization before = read();
    Facts facts = before.model().facts();
    int account = before.names().account("user1");
    Proposal proposal =
        Proposal.of(
            "",
            before.assessment().model(),
            List.of(new Change.AccountChanged(account, Optional.of(true), Optional.empty())));
    Amended amended = amend(before, proposal);
    Modification other = new Modification(ModificationType.REPLACE, "userAccountControl", "66048");
    connection.modify(facts.dn(account), other);
    Work work = amended.carryOut();
    assertThat(work.failed().get(0).why()).isEqualTo("userAccountControl is not 512; it is 66048");
    connection.modify(
        facts.dn(account), new Modification(ModificationType.REPLACE, "userAccountControl", "512"));
    assertThat(amended.carryOut().made()).isEqualTo(1);
    assertThat(amended.undo().made()).isEqualTo(1);
  }
}
