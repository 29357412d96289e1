package org.sobercompass.sources.directory;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Set;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.sobercompass.core.filter.FilterParser;
import org.sobercompass.core.filter.Matching;
import org.sobercompass.core.filter.Syntax;
import org.sobercompass.core.filter.Truth;
import org.sobercompass.core.membership.Visibility;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.sources.workspace.Workspace;

/** What a directory publishes of its schema decides how its values compare. */
class DirectorySchemaTest {
  private static final String SCHEMA =
      """
      dn: cn=subschema
      objectClass: subschema
      cn: subschema
      attributeTypes: ( 2.5.4.0 NAME 'objectClass' EQUALITY objectIdentifierMatch
        SYNTAX 1.3.6.1.4.1.1466.115.121.1.38 )
      attributeTypes: ( 2.5.4.41 NAME 'name' EQUALITY caseIgnoreMatch
        SUBSTR caseIgnoreSubstringsMatch SYNTAX 1.3.6.1.4.1.1466.115.121.1.15 )
      attributeTypes: ( 2.5.4.3 NAME ( 'cn' 'commonName' ) SUP name )
      attributeTypes: ( 0.9.2342.19200300.100.1.1 NAME ( 'uid' 'userid' )
        EQUALITY caseExactMatch ORDERING caseExactOrderingMatch
        SYNTAX 1.3.6.1.4.1.1466.115.121.1.15 )
      attributeTypes: ( 1.1.1 NAME 'tray' EQUALITY numericStringMatch
        ORDERING numericStringOrderingMatch SUBSTR numericStringSubstringsMatch
        SYNTAX 1.3.6.1.4.1.1466.115.121.1.36{32} )
      attributeTypes: ( 1.1.2 NAME 'picture' SYNTAX 1.3.6.1.4.1.1466.115.121.1.28 )
      objectClasses: ( 2.5.6.0 NAME 'top' ABSTRACT MUST objectClass )
      objectClasses: ( 2.5.6.6 NAME 'person' SUP top STRUCTURAL MUST cn MAY picture )
      objectClasses: ( 2.16.840.1.113730.3.2.2 NAME 'inetOrgPerson' SUP person MAY ( uid $ tray ) )
      objectClasses: ( 1.1.9 NAME 'gardener' SUP inetOrgPerson MUST tray )
      """
          .replace("\n  ", "\n  ");

  @TempDir Path root;
  private DirectorySchema schema;

  @BeforeEach
  void read() throws IOException {
    Files.writeString(root.resolve("schema.ldif"), SCHEMA);
    Problems problems = new Problems();
    schema =
        DirectorySchema.read(root.resolve("schema.ldif"), "schema.ldif", problems).orElseThrow();
    assertThat(problems.list()).isEmpty();
  }

  @ParameterizedTest
  @CsvSource({
    "cn, CASE_IGNORE, true, false, true",
    "commonname, CASE_IGNORE, true, false, true",
    "2.5.4.3, CASE_IGNORE, true, false, true",
    "userid, CASE_EXACT, true, true, false",
    "tray, NUMERIC, true, true, true",
    "picture, CASE_EXACT, false, false, false"
  })
  void rulesAreThoseOfTheTypeOrOfTheOneAbove(
      String name, Syntax syntax, boolean equality, boolean ordering, boolean substrings) {
    assertThat(schema.rules().of(name))
        .contains(new Matching(syntax, equality, ordering, substrings));
  }

  @Test
  void namesClassesAndWhatIsRequiredComeFromIt() {
    assertThat(schema.rules().of("nickname")).isEmpty();
    assertThat(schema.names("name")).contains("name", "cn", "commonname").doesNotContain("uid");
    assertThat(schema.names("userid")).containsExactlyInAnyOrder("uid", "userid");
    assertThat(schema.withSuperclasses(List.of("gardener")))
        .contains("gardener", "inetOrgPerson", "person", "top");
    assertThat(schema.required(List.of("gardener"))).containsAll(Set.of("cn", "tray"));
    assertThat(schema.attributeTypes()).isEqualTo(6);
    assertThat(schema.objectClasses()).isEqualTo(4);
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "(uid=Ann)              | TRUE",
        "(uid=ann)              | FALSE",
        "(userid=Ann)           | TRUE",
        "(uid>=B)               | FALSE",
        "(uid<=B)               | TRUE",
        "(uid=A*)               | UNDEFINED",
        "(name=ann*)            | TRUE",
        "(commonName=ANN LIND)  | TRUE",
        "(tray=12 34)           | TRUE",
        "(tray=*23*)            | TRUE",
        "(tray>=2000)           | FALSE",
        "(objectClass=person)   | TRUE",
        "(nickname=a)           | UNDEFINED",
        "(!(nickname=a))        | UNDEFINED",
        "(picture=x)            | UNDEFINED"
      })
  void anExportWithItsSchemaIsFilteredByIt(String text, Truth expected) throws IOException {
    Files.writeString(
        root.resolve("d.ldif"),
        "dn: uid=Ann,dc=x\nobjectClass: gardener\nuid: Ann\ncn: Ann  Lind\ntray: 1234\n");
    Files.writeString(
        root.resolve("compass.yaml"), "directories: {main: {file: d.ldif, schema: schema.ldif}}\n");
    var filter = FilterParser.parse(text);
    Set<String> needs = new java.util.TreeSet<>();
    filter.collectAttributes(needs);
    var facts = Workspace.open(root, needs).facts();
    assertThat(facts.accounts()).as("its class is an account's by the schema alone").isEqualTo(1);
    assertThat(filter.test(new Visibility.SubjectValues(facts, 0))).isEqualTo(expected);
    assertThat(facts.loginMatching(0).orElseThrow().syntax()).isEqualTo(Syntax.CASE_EXACT);
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "''                                | the file holds no attribute types",
        "'dn: cn=x\nobjectClass: top\n'    | the file holds no attribute types",
        "'attributeTypes without a dn\n'   | this is not LDIF"
      })
  void whatIsNoSchemaIsTold(String text, String says) throws IOException {
    Files.writeString(root.resolve("bad.ldif"), text);
    Problems problems = new Problems();
    assertThat(DirectorySchema.read(root.resolve("bad.ldif"), "bad.ldif", problems)).isEmpty();
    assertThat(problems.list()).singleElement().asString().contains("bad.ldif").contains(says);
    DirectorySchema.read(root.resolve("none.ldif"), "none.ldif", problems);
    assertThat(problems.list()).hasSize(2);
  }
}
