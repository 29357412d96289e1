package org.sobercompass.sources.live;

import com.unboundid.ldap.sdk.Attribute;
import com.unboundid.ldap.sdk.Entry;
import com.unboundid.ldap.sdk.Filter;
import com.unboundid.ldap.sdk.LDAPException;
import com.unboundid.ldap.sdk.RDN;
import com.unboundid.ldif.LDIFException;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.TreeSet;
import org.jspecify.annotations.Nullable;
import org.sobercompass.core.amendment.AmendmentRecord;
import org.sobercompass.core.amendment.Difference;
import org.sobercompass.core.proposal.Step;
import org.sobercompass.sources.directory.DnForm;
import org.sobercompass.sources.directory.Secrets;

/**
 * Entries that are created or deleted, whole: what of an entry is written down, and whether it
 * still is so. The server's own attributes (RFC 4512 section 3.4, [MS-ADTS] 3.1.1.3) and passwords
 * are not.
 */
final class LdapEntries {
  /** The name of the difference that an entry as a whole is; its value is LDIF. */
  static final String ENTRY = "entry";

  private static final Set<String> OF_THE_SERVER =
      Set.of(
          "accesstime",
          "admincount",
          "badpasswordtime",
          "badpwdcount",
          "contextcsn",
          "createtimestamp",
          "creatorsname",
          "distinguishedname",
          "dscorepropagationdata",
          "entrycsn",
          "entrydn",
          "entryuuid",
          "hassubordinates",
          "instancetype",
          "iscriticalsystemobject",
          "lastlogoff",
          "lastlogon",
          "lastlogontimestamp",
          "lockouttime",
          "logoncount",
          "memberof",
          "modifiersname",
          "modifytimestamp",
          "msds-resultantpso",
          "name",
          "nsuniqueid",
          "ntsecuritydescriptor",
          "numsubordinates",
          "objectcategory",
          "objectguid",
          "objectsid",
          "primarygroupid",
          "primarygrouptoken",
          "pwdchangedtime",
          "pwdfailuretime",
          "pwdlastset",
          "pwdreset",
          "pwdaccountlockedtime",
          "samaccounttype",
          "structuralobjectclass",
          "subschemasubentry",
          "usnchanged",
          "usncreated",
          "whenchanged",
          "whencreated");

  /** What a server fills in by itself where nothing is said. */
  private static final Set<String> FILLED_IN =
      Set.of(
          "accountexpires",
          "codepage",
          "countrycode",
          "grouptype",
          "samaccountname",
          "useraccountcontrol");

  private static final Set<String> NAMES_OF_ENTRIES =
      Set.of("member", "uniquemember", "owner", "manager", "seealso", "secretary");

  private LdapEntries() {}

  /** The entry that a step creates, without members. */
  static Entry of(Step.Presence step) {
    List<Attribute> attributes = new ArrayList<>();
    step.attributes().forEach((name, values) -> attributes.add(new Attribute(name, values)));
    return new Entry(step.dn(), attributes);
  }

  /** What finds an entry by its immutable id; empty where it shows none. */
  static String id(Entry entry) {
    for (String attribute : List.of("entryUUID", "nsUniqueId", "objectGUID")) {
      byte[] value = entry.getAttributeValueBytes(attribute);
      if (value != null) {
        return Filter.createEqualityFilter(attribute, value).toString();
      }
    }
    return "";
  }

  /** Whether a record creates or deletes an entry. */
  static boolean isWhole(AmendmentRecord record) {
    return record.differences().size() == 1 && record.differences().get(0).name().equals(ENTRY);
  }

  /** Whether it creates one; else it deletes one. */
  static boolean isCreated(AmendmentRecord record) {
    return !record.differences().get(0).added().isEmpty();
  }

  /** The entry that a record creates or deletes. */
  static Entry of(AmendmentRecord record) {
    Difference difference = record.differences().get(0);
    String text = (isCreated(record) ? difference.added() : difference.removed()).get(0);
    try {
      return new Entry(text.split("\n"));
    } catch (LDIFException e) {
      throw new IllegalStateException(e);
    }
  }

  /** An entry as LDIF, without what the server keeps and without secrets. */
  static String text(Entry entry) {
    Entry own = new Entry(entry.getDN());
    entry.getAttributes().stream()
        .filter(attribute -> !isLeftOut(attribute.getName()))
        .forEach(own::addAttribute);
    return own.toLDIFString(0);
  }

  /** The same entry with values that come and go. */
  static Entry with(Entry entry, Difference difference) {
    Entry changed = entry.duplicate();
    difference.removed().forEach(value -> changed.removeAttributeValue(difference.name(), value));
    difference.added().forEach(value -> changed.addAttribute(difference.name(), value));
    return changed;
  }

  private static boolean isLeftOut(String attribute) {
    String name = attribute.toLowerCase(Locale.ROOT).replaceFirst(";.*", "");
    return OF_THE_SERVER.contains(name)
        || name.endsWith("computed")
        || Secrets.names().contains(name);
  }

  /**
   * The attributes in which an entry is otherwise than was written down, in the order of their
   * names. What the server filled in is none of them.
   */
  static List<String> differing(Entry there, Entry said) {
    Set<String> names = new TreeSet<>(String.CASE_INSENSITIVE_ORDER);
    for (Attribute attribute : there.getAttributes()) {
      String name = attribute.getName().toLowerCase(Locale.ROOT);
      boolean filledIn =
          !said.hasAttribute(name) && (FILLED_IN.contains(name) || isOfName(there, attribute));
      if (!isLeftOut(name) && !filledIn) {
        names.add(attribute.getName());
      }
    }
    said.getAttributes().stream()
        .map(Attribute::getName)
        .filter(name -> !isLeftOut(name))
        .forEach(names::add);
    return names.stream()
        .filter(name -> !isSame(name, there.getAttribute(name), said.getAttribute(name)))
        .toList();
  }

  /** Whether an attribute has nothing but a value of the entry's own name. */
  private static boolean isOfName(Entry entry, Attribute attribute) {
    try {
      RDN own = entry.getRDN();
      return own != null
          && attribute.size() == 1
          && own.hasAttributeValue(attribute.getName(), attribute.getValue());
    } catch (LDAPException e) {
      return false;
    }
  }

  private static boolean isSame(String name, @Nullable Attribute there, @Nullable Attribute said) {
    if (there == null || said == null) {
      return false;
    }
    Set<String> now = values(name, there);
    Set<String> then = values(name, said);
    // A server adds the classes above those that were said.
    return name.equalsIgnoreCase("objectClass") ? now.containsAll(then) : now.equals(then);
  }

  private static Set<String> values(String name, Attribute attribute) {
    String lower = name.toLowerCase(Locale.ROOT);
    Set<String> values = new TreeSet<>();
    for (String value : attribute.getValues()) {
      values.add(
          NAMES_OF_ENTRIES.contains(lower)
              ? DnForm.of(value)
              : lower.equals("objectclass") ? value.toLowerCase(Locale.ROOT) : value);
    }
    return values;
  }
}
