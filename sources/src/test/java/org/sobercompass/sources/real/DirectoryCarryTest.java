package org.sobercompass.sources.real;

import static org.assertj.core.api.Assertions.assertThat;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import com.unboundid.ldap.sdk.LDAPConnection;
import com.unboundid.ldap.sdk.LDAPException;
import com.unboundid.ldap.sdk.SearchScope;
import com.unboundid.ldif.LDIFException;
import com.unboundid.util.Base64;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.time.LocalDate;
import java.util.HashMap;
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
import org.sobercompass.core.carry.Carried;
import org.sobercompass.core.carry.CarryPlan;
import org.sobercompass.core.crosswalk.CrosswalkTable;
import org.sobercompass.core.crosswalk.MatchPlan;
import org.sobercompass.core.crosswalk.Ruling;
import org.sobercompass.core.crosswalk.Sureness;
import org.sobercompass.core.proposal.Proposal;
import org.sobercompass.organization.Crosswalks;
import org.sobercompass.organization.Organization;
import org.sobercompass.sources.Secret;
import org.sobercompass.sources.TargetKind;
import org.sobercompass.sources.workspace.Surveyor;

/**
 * Accounts of a slapd with posixAccount are matched with those of a Samba domain controller, and
 * their groups carried over; the controller's own tokens say who is in what.
 */
class DirectoryCarryTest {
  private static final int PEOPLE = 40;
  private static final String MERGED = "OU=Merged," + SambaDc.SUFFIX;
  private static final List<String> GROUPS = List.of("walkers", "keepers", "raisers");
  private static final String[] GIVEN = {"Ada", "Bea", "Cato", "Dag", "Edda", "Finn", "Åse"};
  private static final String[] LAST = {"Fern", "Oak", "Elm", "Lund", "Moor"};

  @TempDir static Path folder;
  private static Slapd slapd;
  private static SambaDc dc;
  private static LDAPConnection connection;
  private static Path workspace;
  private static final Map<String, String> TRUTH = new HashMap<>();
  private static final Map<String, Set<String>> MEMBERS = new TreeMap<>();

  @BeforeAll
  static void start() throws Exception {
    assumeTrue(Slapd.isThere(), "no slapd here: scripts/install-servers installs it");
    String missing = SambaDc.missing();
    assumeTrue(missing.isEmpty(), missing);
    dc = SambaDc.start(Files.createDirectory(folder.resolve("dc")));
    connection = dc.connect();
    Random random = new Random(11);
    Path ldif = folder.resolve("old.ldif");
    Files.writeString(ldif, old(random));
    slapd = Slapd.start(Files.createDirectory(folder.resolve("slapd")), ldif);
    fillNew(random);
    workspace = Files.createDirectory(folder.resolve("live"));
    Files.writeString(
        workspace.resolve("compass.yaml"),
        "directories:\n  old:\n    kind: posix\n    address: "
            + slapd.address()
            + "\n    plain: yes\n    bind: \""
            + Slapd.ROOT_DN
            + "\"\n    password: {env: OLD}\n  new:\n    kind: ad\n    address: ldaps://127.0.0.1\n"
            + "    ca: \""
            + dc.ca()
            + "\"\n    bind: \""
            + SambaDc.ADMIN
            + "\"\n    password: {env: NEW}\n"
            + "crosswalks:\n  - {from: old, to: new, by: [mobile, name]}\n");
  }

  @AfterAll
  static void stop() {
    if (slapd != null) {
      slapd.close();
    }
    if (dc != null) {
      connection.close();
      dc.close();
    }
  }

  private static String given(int i) {
    return GIVEN[i % GIVEN.length];
  }

  private static String last(int i) {
    return LAST[i / GIVEN.length % LAST.length] + (char) ('a' + i % 26);
  }

  private static String old(Random random) {
    StringBuilder out = new StringBuilder("version: 1\n\n");
    out.append("dn: " + Slapd.SUFFIX + "\nobjectClass: domain\ndc: alderfen\n\n");
    for (int i = 0; i < PEOPLE; i++) {
      out.append("dn: uid=o" + i + "," + Slapd.SUFFIX + "\nobjectClass: inetOrgPerson\n");
      out.append("objectClass: posixAccount\nuid: o" + i + "\nsn: " + last(i) + "\n");
      String name = given(i) + " " + last(i);
      out.append("cn:: " + Base64.encode(name) + "\nuidNumber: " + (3000 + i) + "\n");
      out.append("gidNumber: 900\nhomeDirectory: /home/o" + i + "\n");
      // Every seventh gave no number.
      out.append(i % 7 == 6 ? "\n" : "mobile: +351 555 " + (7000 + i) + "\n\n");
    }
    for (int g = 0; g < GROUPS.size(); g++) {
      out.append("dn: cn=" + GROUPS.get(g) + "," + Slapd.SUFFIX + "\nobjectClass: posixGroup\n");
      out.append("cn: " + GROUPS.get(g) + "\ngidNumber: " + (901 + g) + "\n");
      Set<String> members = MEMBERS.computeIfAbsent(GROUPS.get(g), k -> new TreeSet<>());
      for (int i = 0; i < PEOPLE; i++) {
        if (random.nextInt(3) == 0) {
          out.append("memberUid: o" + i + "\n");
          members.add("o" + i);
        }
      }
      out.append("\n");
    }
    return out.toString();
  }

  private static void fillNew(Random random) throws LDAPException, LDIFException {
    connection.add("dn: " + MERGED, "objectClass: organizationalUnit");
    for (int i = 0; i < PEOPLE; i++) {
      String login = "n" + (PEOPLE - i);
      TRUTH.put("o" + i, login);
      connection.add(
          "dn: CN=" + login + "," + MERGED,
          "objectClass: user",
          "sAMAccountName: " + login,
          "displayName: " + last(i) + ", " + given(i),
          // A tenth of the numbers went to somebody else.
          "mobile: +351-555-" + (random.nextInt(10) == 0 ? 7000 + (i + 1) % PEOPLE : 7000 + i));
    }
    for (String group : GROUPS) {
      connection.add(
          "dn: CN=" + group + "," + MERGED,
          "objectClass: group",
          "sAMAccountName: " + group,
          "member: CN=n" + (1 + random.nextInt(PEOPLE)) + "," + MERGED);
    }
  }

  private static Organization read() throws IOException {
    Secret.Origins origins =
        new Secret.Origins(
            name -> Optional.of(name.equals("OLD") ? Slapd.PASSWORD : SambaDc.PASSWORD),
            question -> Optional.empty());
    new Surveyor(origins, Clock.systemUTC(), (source, count) -> {})
        .take(workspace, List.of(), Optional.empty());
    return Organization.open(workspace);
  }

  /** Who is in what, by the controller's own tokens (tokenGroups, [MS-ADTS] 3.1.1.4.5.19). */
  private static Map<String, Set<String>> tokens() throws LDAPException {
    Map<String, String> names = new HashMap<>();
    for (String group : GROUPS) {
      byte[] sid =
          connection
              .getEntry("CN=" + group + "," + MERGED, "objectSid")
              .getAttributeValueBytes("objectSid");
      names.put(Base64.encode(sid), group);
    }
    Map<String, Set<String>> all = new TreeMap<>();
    for (String login : TRUTH.values()) {
      Set<String> groups = new TreeSet<>();
      byte[][] sids =
          connection
              .searchForEntry(
                  "CN=" + login + "," + MERGED, SearchScope.BASE, "(objectClass=*)", "tokenGroups")
              .getAttributeValueByteArrays("tokenGroups");
      for (byte[] sid : sids) {
        Optional.ofNullable(names.get(Base64.encode(sid))).ifPresent(groups::add);
      }
      all.put(login, groups);
    }
    return all;
  }

  @Test
  void whoIsInAGroupHereIsInItThere() throws Exception {
    Organization before = read();
    Crosswalks found = new Crosswalks(before, "old", "new");
    CrosswalkTable table = found.table();
    int certain = 0;
    for (CrosswalkTable.Row row : table.rows()) {
      boolean account = row.line().fromName().startsWith("o");
      if (account && row.sure().equals(Optional.of(Sureness.CERTAIN))) {
        certain++;
        assertThat(row.line().toName()).isEqualTo(TRUTH.get(row.line().fromName()));
      }
    }
    assertThat(certain).isGreaterThan(PEOPLE / 2);
    LocalDate day = LocalDate.of(2026, 11, 30);
    CrosswalkTable accepted =
        table.ruled(
            row ->
                row.sure().equals(Optional.of(Sureness.CERTAIN))
                    || GROUPS.contains(row.line().fromName()),
            Ruling.SAME,
            "Ilse Brandt",
            day);
    MatchPlan plan = before.workspace().crosswalks().get(0).plan();
    Crosswalks crosswalks = new Crosswalks(before, plan, accepted.crosswalk());
    Carried carried = crosswalks.carry(CarryPlan.USUAL);
    Proposal proposal = carried.proposal("merge");
    Map<String, Set<String>> was = tokens();
    TargetKind.Door door =
        new TargetKind.Door(
            "new",
            "ldaps://127.0.0.1",
            Optional.of(SambaDc.ADMIN),
            Optional.of(new Secret.Environment("NEW")),
            false,
            Optional.of(dc.ca()));
    Amended amended =
        Amended.of(before, proposal, folder.resolve("amendment"), door, SambaDc.PASSWORD);
    assertThat(amended.carryOut().isWhole()).isTrue();
    Map<String, Set<String>> is = tokens();
    int given = 0;
    for (var line : accepted.crosswalk().lines()) {
      if (line.isAccepted() && line.fromName().startsWith("o")) {
        Set<String> wanted = new TreeSet<>(was.get(line.toName()));
        MEMBERS.forEach(
            (group, members) -> {
              if (members.contains(line.fromName())) {
                wanted.add(group);
              }
            });
        assertThat(is.get(line.toName())).as(line.toName()).isEqualTo(wanted);
        given += wanted.size() - was.get(line.toName()).size();
        was.put(line.toName(), wanted);
      }
    }
    assertThat(given).isGreaterThan(10);
    assertThat(is).as("nobody else").isEqualTo(was);
    Carried again = new Crosswalks(read(), plan, accepted.crosswalk()).carry(CarryPlan.USUAL);
    assertThat(again.open()).isZero();
    assertThat(amended.undo().isWhole()).isTrue();
    given = 0;
    for (Set<String> groups : tokens().values()) {
      given += groups.size();
    }
    assertThat(given).isLessThanOrEqualTo(GROUPS.size());
  }
}
