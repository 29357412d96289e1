package org.sobercompass.sources.real;

import static org.assertj.core.api.Assertions.assertThat;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import com.unboundid.ldap.sdk.Attribute;
import com.unboundid.ldap.sdk.LDAPConnection;
import com.unboundid.ldap.sdk.LDAPException;
import com.unboundid.ldap.sdk.Modification;
import com.unboundid.ldap.sdk.ModificationType;
import com.unboundid.ldap.sdk.SearchResultEntry;
import com.unboundid.ldap.sdk.SearchScope;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import java.util.TreeSet;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.admin.Administration;
import org.sobercompass.core.admin.Powers;
import org.sobercompass.core.delegation.AdminAction;
import org.sobercompass.core.delegation.DirectoryTree;
import org.sobercompass.core.delegation.DirectoryTrees;
import org.sobercompass.core.delegation.HandedDown;
import org.sobercompass.core.delegation.Requirement;
import org.sobercompass.core.delegation.TreePatch;
import org.sobercompass.core.descriptor.Ace;
import org.sobercompass.core.descriptor.AceType;
import org.sobercompass.core.descriptor.Descriptor;
import org.sobercompass.core.descriptor.DsRights;
import org.sobercompass.core.descriptor.WellKnown;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.core.system.Verdict;
import org.sobercompass.sources.Secret;
import org.sobercompass.sources.delegation.DelegatedSystems;
import org.sobercompass.sources.delegation.TreeReader;
import org.sobercompass.sources.directory.DnForm;
import org.sobercompass.sources.workspace.Surveyor;
import org.sobercompass.sources.workspace.Surveys;
import org.sobercompass.sources.workspace.Workspace;

/** A real domain controller decides: what we compute is what it lets its accounts do. */
class SambaDelegationTest {
  private static final int ACCOUNTS = 24;
  private static final String SITES = "OU=Sites," + SambaDc.SUFFIX;
  private static final int PERMISSIONS = DsRights.WRITE_DAC | DsRights.WRITE_OWNER;
  private static final String SECRET = "Seeds4All.";

  @TempDir static Path folder;
  private static SambaDc dc;
  private static LDAPConnection connection;
  private static DirectoryTree tree;
  private static Powers powers;
  private static SambaTree made;

  @BeforeAll
  static void start() throws Exception {
    String missing = SambaDc.missing();
    assumeTrue(missing.isEmpty(), missing);
    dc = SambaDc.start(Files.createDirectory(folder.resolve("dc")));
    connection = dc.connect();
    Random random = new Random(5);
    made = new SambaTree(connection, SITES, SECRET);
    made.fill(random);
    made.delegate(random, folder.resolve("smb.none"));
    Path workspace = Files.createDirectory(folder.resolve("live"));
    Files.writeString(
        workspace.resolve("compass.yaml"),
        "directories:\n  main:\n    kind: ad\n    address: ldaps://127.0.0.1\n    ca: \""
            + dc.ca()
            + "\"\n    bind: \""
            + SambaDc.ADMIN
            + "\"\n    password: {env: PASSWORD}\n");
    new Surveyor(
            new Secret.Origins(name -> Optional.of(SambaDc.PASSWORD), q -> Optional.empty()),
            Clock.systemUTC(),
            (source, count) -> {})
        .take(workspace, List.of(), Optional.empty());
    AccessModel model = Workspace.open(workspace).model();
    Problems problems = new Problems();
    var survey = Surveys.latest(workspace).orElseThrow();
    TreeReader reader = new TreeReader("main", "main.ldif", problems);
    tree = reader.read(survey.entries(survey.part("main").orElseThrow()));
    assertThat(problems.list()).isEmpty();
    powers = DelegatedSystems.powers(model, Administration.NONE, List.of(tree));
  }

  /** Whether an account may do something that needs these rights, by the list of an object. */
  private static Verdict may(int account, Requirement need, int object) {
    AdminAction action = new AdminAction(need.toString(), "", List.of(), need, 0);
    return powers.lists().byList(account, action, new DirectoryTrees.Spot(tree, object));
  }

  @AfterAll
  static void stop() {
    if (dc != null) {
      connection.close();
      dc.close();
    }
  }

  /** Where this server is known to differ from the specification; left out by rule and counted. */
  private static boolean differs(Descriptor descriptor, Set<String> token, boolean simple) {
    return descriptor.entries().stream()
        .filter(Ace::countsHere)
        .filter(ace -> token.contains(ace.trustee()) || ace.trustee().equals(WellKnown.SELF))
        .anyMatch(
            ace ->
                ace.trustee().equals(WellKnown.OWNER_RIGHTS)
                    || (ace.type().isObject()
                        && ace.object().isEmpty()
                        && (DsRights.mapped(ace.mask())
                                & (simple ? PERMISSIONS : DsRights.CONTROL_ACCESS))
                            != 0));
  }

  private static Set<String> values(SearchResultEntry entry, String attribute) {
    Set<String> values = new TreeSet<>(String.CASE_INSENSITIVE_ORDER);
    String[] found = entry.getAttributeValues(attribute);
    values.addAll(found == null ? List.of() : List.of(found));
    return values;
  }

  private static Map<Integer, SearchResultEntry> seen(LDAPConnection by, String... attributes)
      throws LDAPException {
    Map<String, Integer> places = new HashMap<>();
    for (int object = 0; object < tree.size(); object++) {
      places.put(tree.dnForm(object), object);
    }
    Map<Integer, SearchResultEntry> found = new HashMap<>();
    by.search(SITES, SearchScope.SUB, "(objectClass=*)", attributes)
        .getSearchEntries()
        .forEach(e -> found.put(places.getOrDefault(DnForm.of(e.getDN()), -1), e));
    return found;
  }

  /**
   * Its own words: what it looks up for whoever is signed in, groups of the domain and built-in.
   */
  @Test
  void theTokensOfPeopleAndComputersAreThoseTheServerBuilds() throws Exception {
    int computers = 0;
    int builtIn = 0;
    for (int account = 0; account < powers.model().facts().accounts(); account++) {
      String login = powers.model().facts().login(account);
      if (!login.matches("user[0-9]+|host[0-9]+[$]")) {
        continue;
      }
      try (LDAPConnection own = dc.connect(powers.model().facts().dn(account), SECRET)) {
        SearchResultEntry root = own.getEntry("", "tokenGroups");
        Set<String> theirs = new TreeSet<>();
        for (var value : root.getAttribute("tokenGroups").getRawValues()) {
          org.sobercompass.sources.directory.BinaryIds.sid(value.getValue()).ifPresent(theirs::add);
        }
        Set<String> ours = new TreeSet<>(powers.lists().sids(account));
        theirs.removeIf(sid -> !sid.startsWith("S-1-5-21-") && !sid.startsWith("S-1-5-32-"));
        ours.removeIf(sid -> !sid.startsWith("S-1-5-21-") && !sid.startsWith("S-1-5-32-"));
        assertThat(ours).as(login).isEqualTo(theirs);
        computers +=
            powers.model().facts().is(account, org.sobercompass.core.facts.Facts.HOST) ? 1 : 0;
        builtIn += theirs.contains("S-1-5-32-545") ? 1 : 0;
      }
    }
    assertThat(computers).isGreaterThan(1);
    assertThat(builtIn).as("accounts in the built-in group of users").isGreaterThan(10);
  }

  @Test
  void whatAccountsMayWriteCreateAndChangeIsWhatTheServerSays() throws Exception {
    String[] asked = {
      "allowedAttributesEffective", "allowedChildClassesEffective", "sDRightsEffective"
    };
    Map<Integer, SearchResultEntry> all = seen(connection, asked);
    int decisions = 0;
    int yes = 0;
    int leftOut = 0;
    List<String> different = new ArrayList<>();
    for (int i = 0; i < ACCOUNTS; i++) {
      String login = "user" + i;
      int account = powers.model().facts().names().find(SubjectKind.ACCOUNT, login, login).get(0);
      Set<String> token = powers.lists().sids(account);
      try (LDAPConnection own = dc.connect(powers.model().facts().dn(account), SECRET)) {
        for (Map.Entry<Integer, SearchResultEntry> one : seen(own, asked).entrySet()) {
          int object = one.getKey();
          Descriptor descriptor = tree.descriptor(object).orElseThrow();
          SearchResultEntry universe = all.get(object);
          if (differs(descriptor, token, false)) {
            leftOut++;
          } else {
            Set<String> attributes = values(one.getValue(), "allowedAttributesEffective");
            for (String name : values(universe, "allowedAttributesEffective")) {
              Verdict ours =
                  may(account, new Requirement.Attribute(DsRights.WRITE_PROPERTY, name), object);
              decisions++;
              yes += ours == Verdict.YES ? 1 : 0;
              compare(ours, attributes.contains(name), login + " write " + name, object, different);
            }
            Set<String> classes = values(one.getValue(), "allowedChildClassesEffective");
            for (String name : values(universe, "allowedChildClassesEffective")) {
              Verdict ours =
                  may(account, new Requirement.Child(DsRights.CREATE_CHILD, name), object);
              decisions++;
              yes += ours == Verdict.YES ? 1 : 0;
              compare(ours, classes.contains(name), login + " create " + name, object, different);
            }
          }
          if (differs(descriptor, token, true)) {
            leftOut++;
          } else {
            int theirs =
                Optional.ofNullable(one.getValue().getAttributeValueAsInteger("sDRightsEffective"))
                    .orElse(0);
            Verdict dac = may(account, new Requirement.Simple(DsRights.WRITE_DAC), object);
            Verdict owner = may(account, new Requirement.Simple(DsRights.WRITE_OWNER), object);
            decisions += 2;
            compare(dac, (theirs & 4) != 0, login + " change permissions", object, different);
            compare(owner, (theirs & 1) != 0, login + " take ownership", object, different);
          }
        }
      }
    }
    System.out.println(
        "Samba: " + decisions + " decisions, " + yes + " yes, " + leftOut + " lists left out");
    assertThat(different).isEmpty();
    assertThat(decisions).isGreaterThan(100_000);
    assertThat(leftOut).isLessThan(ACCOUNTS * 50);
    assertThat(yes).isGreaterThan(5_000);
  }

  /** Entries without order, and without those that decide nothing. */
  private static List<String> entries(Descriptor descriptor) {
    return descriptor.entries().stream()
        .filter(ace -> ace.type().effect() != AceType.Effect.NONE)
        .map(ace -> ace.with(ace.flags(), DsRights.mapped(ace.mask()), ace.trustee()).toString())
        .sorted()
        .toList();
  }

  /** Explicit entries of the sites that are handed on to something, as removals. */
  private static List<HandedDown.Entry> removals() {
    List<HandedDown.Entry> all = new ArrayList<>();
    int sites = tree.findForm(DnForm.of(SITES));
    for (int object = sites; object < tree.end(sites); object++) {
      List<Ace> list = tree.descriptor(object).orElseThrow().entries();
      for (int entry = 0; entry < list.size(); entry++) {
        boolean below = list.get(entry).isHandedOn() && tree.end(object) > object + 1;
        if (below && !list.get(entry).isInherited()) {
          all.add(new HandedDown.Entry(object, entry));
        }
      }
    }
    return all;
  }

  @Test
  void whatAnEntryHandsOnGoesWithItAsTheServerDoesIt() throws Exception {
    List<HandedDown.Entry> all = removals();
    Collections.shuffle(all, new Random(23));
    int lists = 0;
    int changed = 0;
    for (HandedDown.Entry removal : all) {
      DirectoryTree after = TreePatch.without(tree, List.of(removal));
      String dn = tree.dn(removal.object());
      Descriptor before = made.descriptor(dn);
      List<Ace> left = new ArrayList<>(before.entries());
      Ace gone = tree.descriptor(removal.object()).orElseThrow().entries().get(removal.entry());
      assertThat(left.remove(gone)).as(dn + " " + gone).isTrue();
      made.write(dn, before.with(left));
      for (int object = removal.object(); object < tree.end(removal.object()); object++) {
        lists++;
        List<String> ours = entries(after.descriptor(object).orElseThrow());
        changed += ours.equals(entries(tree.descriptor(object).orElseThrow())) ? 0 : 1;
        assertThat(entries(made.descriptor(tree.dn(object))))
            .as("%s without %s", tree.dn(object), gone)
            .isEqualTo(ours);
      }
      made.write(dn, before);
      for (int object = removal.object(); object < tree.end(removal.object()); object++) {
        assertThat(entries(made.descriptor(tree.dn(object))))
            .as("%s as it was", tree.dn(object))
            .isEqualTo(entries(tree.descriptor(object).orElseThrow()));
      }
    }
    System.out.println(
        "Samba: " + lists + " lists after an entry was taken out, " + changed + " changed");
    assertThat(lists).isGreaterThan(100);
    assertThat(changed).isGreaterThan(40);
  }

  /** Something tried for real: what it needs, and how it is done and undone. */
  private record Attempt(
      String what, Requirement need, String objectClass, Doing doing, Doing undoing) {}

  private interface Doing {
    void run(LDAPConnection by, String dn) throws LDAPException;
  }

  private static final Requirement WRITE_DESCRIPTION =
      new Requirement.Attribute(DsRights.WRITE_PROPERTY, "description");

  private static List<Attempt> attempts() {
    Doing describe =
        (by, dn) ->
            by.modify(dn, new Modification(ModificationType.REPLACE, "description", "tried"));
    Doing wipe =
        (by, dn) -> by.modify(dn, new Modification(ModificationType.REPLACE, "description"));
    Doing password =
        (by, dn) ->
            by.modify(
                dn,
                new Modification(
                    ModificationType.REPLACE,
                    "unicodePwd",
                    ('"' + SECRET + '"').getBytes(StandardCharsets.UTF_16LE)));
    Doing create =
        (by, dn) ->
            by.add(
                "CN=tried," + dn,
                new Attribute("objectClass", "group"),
                new Attribute("sAMAccountName", "tried"));
    Doing delete = (by, dn) -> by.delete("CN=tried," + dn);
    return List.of(
        new Attempt("describe", WRITE_DESCRIPTION, "", describe, wipe),
        new Attempt(
            "set a password",
            new Requirement.Control("User-Force-Change-Password"),
            "user",
            password,
            (by, dn) -> {}),
        new Attempt(
            "create a group",
            new Requirement.Child(DsRights.CREATE_CHILD, "group"),
            "organizationalUnit",
            create,
            delete));
  }

  @Test
  void whatIsReallyTriedSucceedsOrFailsAsComputed() throws Exception {
    Random random = new Random(17);
    List<Integer> objects = new ArrayList<>(seen(connection, "1.1").keySet());
    objects.sort(null);
    int tried = 0;
    int succeeded = 0;
    List<String> different = new ArrayList<>();
    for (int i = 0; i < ACCOUNTS; i++) {
      String login = "user" + i;
      int account = powers.model().facts().names().find(SubjectKind.ACCOUNT, login, login).get(0);
      Set<String> token = powers.lists().sids(account);
      try (LDAPConnection own = dc.connect(powers.model().facts().dn(account), SECRET)) {
        for (Attempt attempt : attempts()) {
          for (int n = 0; n < 25; n++) {
            int object = objects.get(random.nextInt(objects.size()));
            boolean fits =
                attempt.objectClass.isEmpty()
                    || tree.names().isA(tree.objectClass(object), attempt.objectClass);
            boolean itself = tree.sid(object).equals(powers.trees().sid(account));
            Descriptor descriptor = tree.descriptor(object).orElseThrow();
            if (fits && !itself && !differs(descriptor, token, false)) {
              Verdict ours = may(account, attempt.need, object);
              boolean theirs = works(attempt, own, tree.dn(object));
              tried++;
              succeeded += theirs ? 1 : 0;
              compare(ours, theirs, login + " " + attempt.what, object, different);
            }
          }
        }
      }
    }
    System.out.println("Samba: " + tried + " attempts, " + succeeded + " succeeded");
    assertThat(different).isEmpty();
    assertThat(tried).isGreaterThan(500);
    assertThat(succeeded).isGreaterThan(20);
  }

  /** Whether it works; what was done is undone by the administrator. */
  private static boolean works(Attempt attempt, LDAPConnection by, String dn) throws LDAPException {
    try {
      attempt.doing.run(by, dn);
    } catch (LDAPException e) {
      // 50: not allowed. 32: it may not even see the object. Anything else is a fault of the test.
      assertThat(e.getResultCode().intValue()).as(e.getMessage()).isIn(50, 32);
      return false;
    }
    attempt.undoing.run(connection, dn);
    return true;
  }

  private static void compare(
      Verdict ours, boolean theirs, String what, int object, List<String> different) {
    if ((ours == Verdict.YES) != theirs || ours == Verdict.UNDECIDED) {
      if (different.size() < 20) {
        different.add(
            what
                + " on "
                + tree.dn(object)
                + ": ours "
                + ours
                + ", theirs "
                + theirs
                + " "
                + org.sobercompass.core.descriptor.Sddl.text(tree.descriptor(object).orElseThrow())
                    .toLowerCase(Locale.ROOT));
      }
    }
  }
}
