package org.sobercompass.sources.crosswalk;

import com.unboundid.ldap.sdk.Attribute;
import com.unboundid.ldap.sdk.DN;
import com.unboundid.ldap.sdk.LDAPException;
import com.unboundid.ldap.sdk.RDN;
import com.unboundid.ldif.LDIFAddChangeRecord;
import com.unboundid.ldif.LDIFRecord;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.sobercompass.core.crosswalk.NewNames.Made;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.problem.BadInputException;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.problem.Problem;

/** Accounts and groups that are still to be made, as LDIF change records (RFC 2849). */
public final class NewEntries {
  private final Facts facts;

  /** Of these directories. */
  public NewEntries(Facts facts) {
    this.facts = facts;
  }

  /** Accounts below an entry: persons as RFC 2798 has them, without a password. */
  public String accounts(List<Made> made, String below) {
    List<LDIFRecord> records = new ArrayList<>();
    for (Made one : made) {
      String name = one.given().isEmpty() ? one.last() : one.given() + " " + one.last();
      Map<String, List<String>> values = new LinkedHashMap<>();
      values.put("objectClass", List.of("top", "person", "organizationalPerson", "inetOrgPerson"));
      values.put("uid", List.of(one.login()));
      values.put("cn", List.of(name));
      values.put("sn", List.of(one.last()));
      values.put("givenName", one.given().isEmpty() ? List.of() : List.of(one.given()));
      for (String attribute : List.of("mobile", "telephoneNumber", "employeeNumber")) {
        values.put(
            attribute, facts.values(one.from(), attribute.toLowerCase(java.util.Locale.ROOT)));
      }
      records.add(record("uid", one.login(), below, values));
    }
    return text(records);
  }

  /**
   * Groups below an entry.
   *
   * @param members the DNs of the members of each; those without members are left out, since a
   *     group must have one (RFC 4519 section 3.5)
   */
  public String groups(List<Made> made, String below, Map<Integer, List<String>> members) {
    List<LDIFRecord> records = new ArrayList<>();
    for (Made one : made) {
      List<String> all = members.getOrDefault(one.from(), List.of());
      if (!all.isEmpty()) {
        Map<String, List<String>> values = new LinkedHashMap<>();
        values.put("objectClass", List.of("top", "groupOfNames"));
        values.put("cn", List.of(one.login()));
        values.put("member", all);
        records.add(record("cn", one.login(), below, values));
      }
    }
    return text(records);
  }

  private static LDIFRecord record(
      String naming, String name, String below, Map<String, List<String>> values) {
    try {
      List<Attribute> attributes = new ArrayList<>();
      values.forEach(
          (attribute, all) -> {
            if (!all.isEmpty()) {
              attributes.add(new Attribute(attribute, all));
            }
          });
      DN dn = new DN(new RDN(naming, name), new DN(below));
      return new LDIFAddChangeRecord(dn.toString(), attributes);
    } catch (LDAPException e) {
      throw new BadInputException(
          Problem.error(Place.of(below), "it is no DN", "a DN like ou=people,dc=example,dc=org"));
    }
  }

  private static String text(List<LDIFRecord> records) {
    StringBuilder out = new StringBuilder();
    records.forEach(record -> out.append(record.toLDIFString()).append("\n"));
    return out.toString();
  }
}
