package org.sobercompass.core.filter;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Filters are true, false or undefined, as RFC 4511 section 4.5.1.7 says. */
class FilterTest {
  private static final Map<String, List<String>> ENTRY =
      Map.of(
          "cn",
          List.of("Åse  Lind", "Ase"),
          "uidnumber",
          List.of("42"),
          "objectclass",
          List.of("person"),
          "useraccountcontrol",
          List.of("514"),
          "homedirectory",
          List.of("/Home/a"),
          "nsaccountlock",
          List.of("TRUE"),
          "clearance",
          List.of("Gold-1", "17"));

  private static final Values VALUES =
      new Values() {
        @Override
        public List<String> of(String attribute) {
          return ENTRY.getOrDefault(attribute, List.of());
        }

        @Override
        public Optional<Matching> matching(String attribute) {
          return ENTRY.containsKey(attribute) || attribute.equals("mail")
              ? Optional.of(Matching.usual(attribute))
              : Optional.empty();
        }
      };

  @ParameterizedTest
  @CsvSource(
      delimiterString = "→",
      value = {
        "(cn=åse lind)→TRUE",
        "(CN=ASE)→TRUE",
        "(cn=bo)→FALSE",
        "(cn=*)→TRUE",
        "(mail=*)→FALSE",
        "(mail=a)→FALSE",
        "(nosuch=a)→UNDEFINED",
        "(!(nosuch=a))→UNDEFINED",
        "(nosuch=*)→UNDEFINED",
        "(|(nosuch=a)(cn=ase))→TRUE",
        "(&(nosuch=a)(cn=bo))→FALSE",
        "(&(nosuch=a)(cn=ase))→UNDEFINED",
        "(|(nosuch=a)(cn=bo))→UNDEFINED",
        "(&)→TRUE",
        "(|)→FALSE",
        "(!(cn=bo))→TRUE",
        "(uidNumber=042)→TRUE",
        "(uidNumber>=9)→TRUE",
        "(uidNumber<=9)→FALSE",
        "(uidNumber>=x)→UNDEFINED",
        "(uidNumber=4*)→UNDEFINED",
        "(cn>=b)→UNDEFINED",
        "(cn~=ASE)→TRUE",
        "(objectClass>=a)→UNDEFINED",
        "(cn=Å*)→TRUE",
        "(cn=*lind)→TRUE",
        "(cn=å*e*d)→TRUE",
        "(cn=*x*)→FALSE",
        "(cn=As*se)→FALSE",
        "(cn=\\41se)→TRUE",
        "(cn=\\c3\\85se lind)→TRUE",
        "(homeDirectory=/home/a)→FALSE",
        "(homeDirectory=/Home/a)→TRUE",
        "(nsAccountLock=true)→TRUE",
        "(nsAccountLock=maybe)→UNDEFINED",
        "(userAccountControl:1.2.840.113556.1.4.803:=2)→TRUE",
        "(userAccountControl:1.2.840.113556.1.4.803:=3)→FALSE",
        "(userAccountControl:1.2.840.113556.1.4.804:=3)→TRUE",
        "(cn:caseExactMatch:=ase)→FALSE",
        "(cn:9.9.9:=ase)→UNDEFINED",
        // No schema says how this one compares.
        "(clearance=Gold-1)→TRUE",
        "(clearance=gold-1)→UNDEFINED",
        "(clearance=gold 1)→UNDEFINED",
        "(clearance=017)→UNDEFINED",
        "(clearance=18)→FALSE",
        "(clearance>=17)→UNDEFINED",
        "(clearance=Gold*)→TRUE",
        "(clearance=gold*)→UNDEFINED",
        "(clearance=1*)→UNDEFINED",
        "(clearance=x*)→FALSE",
        "(clearance::=gold-1)→UNDEFINED",
        "(clearance:caseIgnoreMatch:=gold-1)→TRUE"
      })
  void filtersHaveThreeValues(String filter, Truth expected) {
    assertThat(FilterParser.parse(filter).test(VALUES)).isEqualTo(expected);
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "(cn=a|6",
        "cn=a|1",
        "(cn=a))|7",
        "(=a)|2",
        "(cn=a\\4)|6",
        "(cn=a(b)|6",
        "(&(cn=a)|9"
      })
  void whatIsNoFilterIsToldByItsColumn(String filter, int column) {
    assertThatThrownBy(() -> FilterParser.parse(filter))
        .isInstanceOfSatisfying(
            FilterSyntaxException.class, e -> assertThat(e.column()).isEqualTo(column));
  }

  @ParameterizedTest
  @CsvSource({"99, true", "200, false"})
  void nestingHasALimit(int depth, boolean fits) {
    String filter = "(!".repeat(depth) + "(cn=a)" + ")".repeat(depth);
    if (fits) {
      assertThat(FilterParser.parse(filter).test(VALUES)).isNotNull();
    } else {
      assertThatThrownBy(() -> FilterParser.parse(filter))
          .isInstanceOf(FilterSyntaxException.class);
    }
  }

  @ParameterizedTest
  @CsvSource(
      delimiterString = "→",
      value = {
        "(telephoneNumber=+351 21-000 1234)→TRUE",
        "(telephoneNumber=+351210001234)→TRUE",
        "(telephoneNumber=*0001234)→TRUE",
        "(telephoneNumber=*9)→FALSE",
        "(telephoneNumber>=1)→UNDEFINED",
        "(modifyTimestamp>=20260101000000Z)→TRUE",
        "(modifyTimestamp<=20260101000000Z)→FALSE",
        "(modifyTimestamp>=yesterday)→UNDEFINED",
        "(member=UID=ann, OU=Vault, DC=x)→TRUE",
        "(member=uid=ann*)→UNDEFINED",
        "(ou:dn:=VAULT)→TRUE",
        "(ou:=vault)→FALSE",
        "(ou:dn:caseExactMatch:=VAULT)→FALSE",
        "(dc:dn:=x)→TRUE",
        "(sn:=KEEPER)→TRUE"
      })
  void valuesCompareByTheRuleOfTheirAttribute(String filter, Truth expected) throws Exception {
    Values entry =
        new Values() {
          @Override
          public java.util.List<String> of(String attribute) {
            return switch (attribute) {
              case "telephonenumber" -> java.util.List.of("+351 21 000-1234");
              case "modifytimestamp" -> java.util.List.of("20260601120000.5Z");
              case "member" -> java.util.List.of("uid=ann,ou=vault,dc=x");
              case "sn" -> java.util.List.of("Keeper");
              default -> java.util.List.of();
            };
          }

          @Override
          public java.util.List<String> inName(String attribute) {
            return Values.inName("uid=ann,ou=vault,dc=x", attribute);
          }

          @Override
          public Optional<Matching> matching(String attribute) {
            return Optional.of(Matching.usual(attribute));
          }
        };
    assertThat(FilterParser.parse(filter).test(entry)).isEqualTo(expected);
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "uid=a,ou=b\\,c,dc=x | ou | b\\,c",
        "cn=a+uid=b,dc=x      | uid | b",
        "cn=a+uid=b,dc=x      | cn | a",
        "dc=x                 | dc | x"
      })
  void partsOfANameAreFoundAlsoWhereItEscapesOrJoins(String dn, String attribute, String value) {
    assertThat(Values.inName(dn, attribute)).containsExactly(value);
  }
}
