package org.sobercompass.sources.real;

import static org.assertj.core.api.Assertions.assertThat;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import com.unboundid.asn1.ASN1OctetString;
import com.unboundid.ldap.sdk.Attribute;
import com.unboundid.ldap.sdk.LDAPConnection;
import com.unboundid.ldap.sdk.LDAPException;
import com.unboundid.ldap.sdk.Modification;
import com.unboundid.ldap.sdk.ModificationType;
import com.unboundid.ldap.sdk.SearchResultEntry;
import com.unboundid.ldap.sdk.SearchScope;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import java.util.TreeSet;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.facts.Via;
import org.sobercompass.core.filter.FilterParser;
import org.sobercompass.core.filter.Truth;
import org.sobercompass.core.membership.MembershipGraph;
import org.sobercompass.core.membership.MembershipProfile;
import org.sobercompass.core.membership.Memberships;
import org.sobercompass.core.membership.SubjectSet;
import org.sobercompass.core.membership.Visibility;
import org.sobercompass.sources.Secret;
import org.sobercompass.sources.directory.DnForm;
import org.sobercompass.sources.workspace.Surveyor;
import org.sobercompass.sources.workspace.Workspace;

/** A real domain controller decides: our memberships are what it puts into its tokens. */
class SambaTest {
  private static final int ACCOUNTS = 150;
  private static final int GROUPS = 50;
  private static final String PEOPLE = "OU=People," + SambaDc.SUFFIX;

  @TempDir static Path folder;
  private static SambaDc dc;
  private static LDAPConnection connection;
  private static Path workspace;

  @BeforeAll
  static void start() throws IOException, LDAPException {
    String missing = SambaDc.missing();
    assumeTrue(missing.isEmpty(), missing);
    dc = SambaDc.start(Files.createDirectory(folder.resolve("dc")));
    connection = dc.connect();
    fill(new Random(11));
    workspace = Files.createDirectory(folder.resolve("live"));
    Files.writeString(
        workspace.resolve("compass.yaml"),
        "directories:\n  main:\n    kind: ad\n    address: ldaps://127.0.0.1\n    ca: \""
            + dc.ca()
            + "\"\n    bind: \""
            + SambaDc.ADMIN
            + "\"\n    password: {env: PASSWORD}\n    bases: [\""
            + SambaDc.SUFFIX
            + "\"]\n    page: 100\n");
    new Surveyor(
            new Secret.Origins(name -> Optional.of(SambaDc.PASSWORD), q -> Optional.empty()),
            Clock.systemUTC(),
            (source, count) -> {})
        .take(workspace, List.of(), Optional.empty());
  }

  @AfterAll
  static void stop() {
    if (dc != null) {
      connection.close();
      dc.close();
    }
  }

  /** Groups of all types in one another, some for mail only; some accounts with another primary. */
  private static void fill(Random random) throws LDAPException {
    connection.add(PEOPLE, new Attribute("objectClass", "organizationalUnit"));
    List<String> members = new ArrayList<>();
    for (int i = 0; i < ACCOUNTS; i++) {
      String dn = "CN=User " + i + "," + PEOPLE;
      connection.add(
          dn,
          new Attribute("objectClass", "user"),
          new Attribute("sAMAccountName", "user" + i),
          new Attribute("userAccountControl", i % 5 == 0 ? "514" : "546"));
      members.add(dn);
    }
    String[] types = {"-2147483646", "-2147483644", "-2147483640", "8"};
    for (int g = 0; g < GROUPS; g++) {
      String dn = "CN=Group " + g + "," + PEOPLE;
      connection.add(
          dn,
          new Attribute("objectClass", "group"),
          new Attribute("sAMAccountName", "group" + g),
          new Attribute("groupType", types[g % 10 == 9 ? 3 : random.nextInt(3)]));
      members.add(dn);
    }
    for (int g = 0; g < GROUPS; g++) {
      Set<String> chosen = new TreeSet<>();
      for (int m = 0; m < 2 + random.nextInt(10); m++) {
        chosen.add(members.get(random.nextInt(members.size())));
      }
      chosen.remove("CN=Group " + g + "," + PEOPLE);
      for (String member : chosen) {
        try {
          modify("CN=Group " + g + "," + PEOPLE, ModificationType.ADD, "member", member);
        } catch (LDAPException e) {
          // Some nestings the server does not allow: then they are not there to compare.
          assertThat(e.getResultCode().intValue()).as(e.getMessage()).isIn(53, 19, 68);
        }
      }
    }
    for (int i = 0; i < 10; i++) {
      String group = "CN=Group " + (i * 5) + "," + PEOPLE;
      String user = "CN=User " + i + "," + PEOPLE;
      try {
        modify(group, ModificationType.ADD, "member", user);
      } catch (LDAPException e) {
        assertThat(e.getResultCode().intValue()).isEqualTo(68);
      }
      try {
        modify(user, ModificationType.REPLACE, "primaryGroupID", rid(group));
      } catch (LDAPException e) {
        assertThat(e.getResultCode().intValue()).as(e.getMessage()).isIn(53, 50);
      }
    }
  }

  private static void modify(String dn, ModificationType type, String name, String value)
      throws LDAPException {
    connection.modify(dn, new Modification(type, name, value));
  }

  private static String rid(String dn) throws LDAPException {
    byte[] sid = connection.getEntry(dn, "objectSid").getAttributeValueBytes("objectSid");
    return text(sid).replaceFirst(".*-", "");
  }

  /** [MS-DTYP] 2.4.2.2, written again here so that the test does not lean on our reader. */
  private static String text(byte[] sid) {
    StringBuilder out = new StringBuilder("S-").append(sid[0]);
    long authority = 0;
    for (int i = 2; i < 8; i++) {
      authority = authority << 8 | sid[i] & 0xff;
    }
    out.append('-').append(authority);
    for (int i = 8; i < sid.length; i += 4) {
      long part = 0;
      for (int b = 3; b >= 0; b--) {
        part = part << 8 | sid[i + b] & 0xff;
      }
      out.append('-').append(part);
    }
    return out.toString();
  }

  @Test
  void groupsInTheTokenAreThoseWeCompute() throws LDAPException {
    Facts facts = Workspace.open(workspace, Set.of("objectsid")).facts();
    Memberships memberships =
        new Memberships(
            MembershipGraph.of(facts),
            new MembershipProfile(
                EnumSet.of(Via.MEMBER, Via.PRIMARY), MembershipProfile.FULL, false),
            Visibility.all(facts));
    Map<String, String> nameOf = new HashMap<>();
    for (SearchResultEntry group :
        connection
            .search(SambaDc.SUFFIX, SearchScope.SUB, "(objectClass=group)", "objectSid")
            .getSearchEntries()) {
      nameOf.put(text(group.getAttributeValueBytes("objectSid")), group.getDN().toLowerCase());
    }
    int pairs = 0;
    int otherPrimary = 0;
    for (int i = 0; i < ACCOUNTS; i++) {
      String dn = "CN=User " + i + "," + PEOPLE;
      Set<String> theirs = new TreeSet<>();
      SearchResultEntry entry = connection.getEntry(dn, "tokenGroups", "primaryGroupID");
      for (ASN1OctetString value : entry.getAttribute("tokenGroups").getRawValues()) {
        String sid = text(value.getValue());
        theirs.add(nameOf.getOrDefault(sid, sid));
      }
      otherPrimary += "513".equals(entry.getAttributeValue("primaryGroupID")) ? 0 : 1;
      int account = facts.names().find(SubjectKind.ACCOUNT, "user" + i, "user" + i).get(0);
      SubjectSet subjects = new SubjectSet();
      memberships.walker().subjects(account, subjects);
      Set<String> ours = new TreeSet<>();
      for (int s : subjects.sure().toArray()) {
        if (s != account) {
          ours.add(facts.dn(s).toLowerCase());
        }
      }
      assertThat(ours).as(dn).isEqualTo(theirs);
      pairs += theirs.size();
    }
    assertThat(pairs).isGreaterThan(ACCOUNTS * 3);
    assertThat(otherPrimary).as("accounts whose primary group is another").isGreaterThan(2);
  }

  /**
   * Its schema names no rules: the kind of value says how it compares, and text has an order. Left
   * out: the negation of an item on an unknown attribute, which this server takes as true.
   */
  @ParameterizedTest
  @ValueSource(
      strings = {
        "(sAMAccountName>=user3)",
        "(sAMAccountName<=GROUP2)",
        "(cn>=user 9)",
        "(!(cn<=user 9))",
        "(sAMAccountName=USER1*)",
        "(name=user 4*)",
        "(displayName=*)",
        "(description>=a)",
        "(nosuchattribute=a)",
        "(userAccountControl>=540)",
        "(userAccountControl:1.2.840.113556.1.4.804:=34)",
        "(primaryGroupID=513)",
        "(objectClass=person)",
        "(objectClass=ORGANIZATIONALPERSON)",
        "(&(objectClass=group)(!(groupType:1.2.840.113556.1.4.803:=2147483648)))",
        "(whenCreated>=20200101000000.0Z)",
        "(whenCreated<=20200101000000.0Z)",
        "(memberOf=CN=Users,CN=Builtin,DC=alderfen,DC=example)",
        "(member=cn=user 3,ou=people,dc=alderfen,dc=example)"
      })
  void filtersFitTheSameEntriesAsTheServerSays(String filter) throws Exception {
    Set<String> theirs = new TreeSet<>();
    connection
        .search(PEOPLE, SearchScope.SUB, filter, "1.1")
        .getSearchEntries()
        .forEach(entry -> theirs.add(DnForm.of(entry.getDN())));
    var parsed = FilterParser.parse(filter);
    Set<String> needs = new TreeSet<>();
    parsed.collectAttributes(needs);
    Facts facts = Workspace.open(workspace, needs).facts();
    Set<String> ours = new TreeSet<>();
    for (int subject = 0; subject < facts.subjects(); subject++) {
      String form = facts.dn(subject).isEmpty() ? "" : facts.arrays().dnForm().get(subject);
      boolean below = form.endsWith(DnForm.of(PEOPLE));
      if (below && parsed.test(new Visibility.SubjectValues(facts, subject)) == Truth.TRUE) {
        ours.add(form);
      }
    }
    assertThat(ours).isEqualTo(theirs);
  }

  @Test
  void disabledAccountsAreThoseTheServerSays() throws LDAPException {
    Facts facts = Workspace.open(workspace).facts();
    Set<String> theirs = new TreeSet<>();
    for (SearchResultEntry entry :
        connection
            .search(
                SambaDc.SUFFIX,
                SearchScope.SUB,
                "(&(objectClass=user)(userAccountControl:1.2.840.113556.1.4.803:=2))",
                "sAMAccountName")
            .getSearchEntries()) {
      theirs.add(entry.getAttributeValue("sAMAccountName"));
    }
    Set<String> ours = new TreeSet<>();
    for (int account = 0; account < facts.accounts(); account++) {
      if (facts.is(account, Facts.DISABLED)) {
        ours.add(facts.login(account));
      }
    }
    assertThat(theirs).hasSizeGreaterThan(20);
    assertThat(ours).isEqualTo(theirs);
  }
}
