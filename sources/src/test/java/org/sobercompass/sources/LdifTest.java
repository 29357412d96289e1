package org.sobercompass.sources;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Base64;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.FactsBuilder;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.facts.Via;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.sources.directory.DirectoryKind;
import org.sobercompass.sources.directory.DnForm;
import org.sobercompass.sources.directory.LdifSource;

/** LDIF as real servers write it. */
class LdifTest {
  private final Problems problems = new Problems();

  private Facts read(DirectoryKind kind, String ldif, String... attributes) throws IOException {
    FactsBuilder builder = new FactsBuilder(List.of(attributes), DnForm::of, problems);
    new LdifSource("d.ldif", kind, builder.source("main"), problems)
        .read(new ByteArrayInputStream(ldif.getBytes(StandardCharsets.UTF_8)));
    Facts facts = builder.build();
    assertThat(problems.errors()).as(problems.list().toString()).isZero();
    return facts;
  }

  private static List<String> groupsOf(Facts facts, String account) {
    int a = NameResolver.find(facts, SubjectKind.ACCOUNT, account).get(0);
    List<String> names = new ArrayList<>();
    for (int i = facts.arrays().up().start(a); i < facts.arrays().up().end(a); i++) {
      names.add(
          facts.login(facts.arrays().up().at(i))
              + " "
              + Via.of(facts.arrays().upVia()[i]).attribute());
    }
    return names;
  }

  @Test
  void foldedBase64CommentedCrlfAnyOrder() throws IOException {
    String name =
        Base64.getEncoder().encodeToString("Åse Ødegård".getBytes(StandardCharsets.UTF_8));
    String ldif =
        "version: 1\r\n"
            + "# a comment\r\n"
            + "#  going on\r\n\r\n"
            + "dn: cn=crew,dc=x\r\n"
            + "changetype: add\r\n"
            + "objectClass: groupOfNames\r\n"
            + "cn: crew\r\n"
            + "member: uid=a\r\n"
            + " se,dc=x\r\n"
            + "member: UID=bo ,  DC=X\r\n\r\n"
            + "dn: uid=ase,dc=x\r\n"
            + "objectClass: inetOrgPerson\r\n"
            + "uid: ase\r\n"
            + "cn:: "
            + name
            + "\r\n"
            + "cn;lang-en: Ase\r\n"
            + "unheardOf: 7\r\n\r\n"
            + "dn: uid=bo,dc=x\r\n"
            + "objectClass: inetOrgPerson\r\n"
            + "uid: bo\r\n";
    Facts facts = read(DirectoryKind.STANDARD, ldif);
    assertThat(facts.label(NameResolver.find(facts, SubjectKind.ACCOUNT, "ase").get(0)))
        .isEqualTo("Åse Ødegård");
    assertThat(groupsOf(facts, "ase")).containsExactly("crew member");
    assertThat(groupsOf(facts, "bo")).containsExactly("crew member");
    assertThat(NameResolver.find(facts, SubjectKind.ACCOUNT, "åse  ødegård")).hasSize(1);
    assertThat(NameResolver.find(facts, SubjectKind.ACCOUNT, "UID=ase, dc=x")).hasSize(1);
  }

  @Test
  void allKindsOfGroupAndPrimaryGroupsByNumber() throws IOException {
    String person = "objectClass: inetOrgPerson\nobjectClass: posixAccount\n";
    Facts facts =
        read(
            DirectoryKind.STANDARD,
            "dn: uid=a,dc=x\n"
                + person
                + "uid: a\n"
                + "gidNumber: 7\n\n"
                + "dn: cn=u,dc=x\n"
                + "objectClass: groupOfUniqueNames\n"
                + "cn: u\n"
                + "uniqueMember: uid=a,dc=x#'01'B\n"
                + "uniqueMember: uid=gone,dc=x\n\n"
                + "dn: cn=p,dc=x\n"
                + "objectClass: posixGroup\n"
                + "cn: p\n"
                + "gidNumber: 7\n\n"
                + "dn: cn=q,dc=x\n"
                + "objectClass: posixGroup\n"
                + "cn: q\n"
                + "gidNumber: 8\n"
                + "memberUid: a\n");
    assertThat(groupsOf(facts, "a")).containsExactly("p primary", "q memberUid", "u uniqueMember");
    assertThat(facts.arrays().dangling())
        .singleElement()
        .satisfies(d -> assertThat(d.text()).isEqualTo("uid=gone,dc=x"));
  }

  private static String sid(int... parts) {
    byte[] bytes = new byte[8 + parts.length * 4];
    bytes[0] = 1;
    bytes[1] = (byte) parts.length;
    bytes[7] = 5;
    for (int i = 0; i < parts.length; i++) {
      for (int b = 0; b < 4; b++) {
        bytes[8 + i * 4 + b] = (byte) (parts[i] >>> (8 * b));
      }
    }
    return Base64.getEncoder().encodeToString(bytes);
  }

  @Test
  void idsPrimaryGroupStateAndMailOnlyOfTheAdKind() throws IOException {
    String guid =
        Base64.getEncoder()
            .encodeToString(
                new byte[] {
                  0x33,
                  0x22,
                  0x11,
                  0,
                  0x55,
                  0x44,
                  0x77,
                  0x66,
                  (byte) 0x88,
                  (byte) 0x99,
                  1,
                  2,
                  3,
                  4,
                  5,
                  6
                });
    Facts facts =
        read(
            DirectoryKind.AD,
            "dn: CN=Ann,DC=x\n"
                + "objectClass: user\n"
                + "sAMAccountName: ann\n"
                + "userAccountControl: 514\n"
                + "objectGUID:: "
                + guid
                + "\nobjectSid:: "
                + sid(21, 1, 2, 3, 1105)
                + "\n"
                + "primaryGroupID: 513\n"
                + "accountExpires: 132223104000000000\n\n"
                + "dn: CN=PC,DC=x\n"
                + "objectClass: user\n"
                + "objectClass: computer\n"
                + "sAMAccountName: PC$\n\n"
                + "dn: CN=Users,DC=x\n"
                + "objectClass: group\n"
                + "sAMAccountName: users\n"
                + "groupType: -2147483646\n"
                + "objectSid:: "
                + sid(21, 1, 2, 3, 513)
                + "\n\n"
                + "dn: CN=List,DC=x\n"
                + "objectClass: group\n"
                + "sAMAccountName: list\n"
                + "groupType: 2\n"
                + "member: CN=Ann,DC=x\n");
    assertThat(facts.accounts()).isEqualTo(2);
    assertThat(facts.is(1, Facts.HOST)).isTrue();
    assertThat(facts.is(0, Facts.HOST)).isFalse();
    assertThat(facts.key(0).text()).isEqualTo("account:main/00112233-4455-6677-8899-010203040506");
    assertThat(facts.is(0, Facts.DISABLED)).isTrue();
    assertThat(facts.expires(0)).isEqualTo(1_577_836_800L);
    assertThat(groupsOf(facts, "ann")).containsExactlyInAnyOrder("list member", "users primary");
    assertThat(
            facts.is(NameResolver.find(facts, SubjectKind.GROUP, "list").get(0), Facts.MAIL_ONLY))
        .isTrue();
    assertThat(
            facts.is(NameResolver.find(facts, SubjectKind.GROUP, "users").get(0), Facts.MAIL_ONLY))
        .isFalse();
  }

  @Test
  void attributesAskedForBecomeColumnsWithTheirCompleteness() throws IOException {
    Facts facts =
        read(
            DirectoryKind.STANDARD,
            "dn: uid=a\n"
                + "objectClass: inetOrgPerson\n"
                + "uid: a\n"
                + "title;lang-en: Boss\n"
                + "title: Chef\n\n"
                + "dn: uid=b\n"
                + "objectClass: inetOrgPerson\n"
                + "uid: b\n",
            "title");
    assertThat(facts.values(0, "title")).containsExactlyInAnyOrder("Chef", "Boss");
    assertThat(facts.arrays().completeness())
        .singleElement()
        .satisfies(
            c -> {
              assertThat(c.asked()).isEqualTo(2);
              assertThat(c.returned()).isEqualTo(1);
            });
  }

  @Test
  void theExportToolsOwnTrailerIsPassedOverAndSaid() throws IOException {
    Facts facts =
        read(
            DirectoryKind.STANDARD,
            "dn: uid=a\nobjectClass: inetOrgPerson\nuid: a\n\nsearch: 2\nresult: 0 Success\n");
    assertThat(facts.accounts()).isEqualTo(1);
    assertThat(problems.warnings()).isEqualTo(1);
  }

  @Test
  void anExpiryThatCannotBeReadIsUndecidedNotNever() throws IOException {
    Facts facts =
        read(
            DirectoryKind.STANDARD,
            "dn: uid=a\nobjectClass: inetOrgPerson\nuid: a\nshadowExpire: soon\n");
    assertThat(facts.is(0, Facts.EXPIRY_UNKNOWN)).isTrue();
  }
}
