package org.sobercompass.sources.directory;

import com.unboundid.ldap.sdk.Attribute;
import com.unboundid.ldap.sdk.Entry;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.FactsBuilder.Space;
import org.sobercompass.core.facts.FactsSource;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.facts.SubjectRow;
import org.sobercompass.core.facts.Via;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.problem.Problems;

/** Turns one directory entry after another into facts. */
final class EntryFacts {
  /** The most parts a name may have; no directory is as deep. */
  private static final int DEEPEST = 1000;

  private static final long SECURITY_ENABLED = 0x80000000L;

  private final String name;
  private final DirectoryKind kind;
  private final FactsSource into;
  private final Optional<DirectorySchema> schema;
  private final PasswordRules passwords;
  private final Problems problems;
  private final MemberLists lists;
  private final Map<String, Integer> withheld = new TreeMap<>();
  private boolean created;

  EntryFacts(
      String name,
      DirectoryKind kind,
      Optional<DirectorySchema> schema,
      FactsSource into,
      Problems problems) {
    this.schema = schema;
    this.passwords = new PasswordRules(into);
    this.name = name;
    this.kind = kind;
    this.into = into;
    this.problems = problems;
    this.lists = new MemberLists(name, into, problems);
  }

  /** Takes an entry that is to be created; told when it is neither an account nor a group. */
  void takeCreated(Entry entry) {
    created = true;
    if (subjectKind(entry) != null && subjectKind(entry) != SubjectKind.UNIT) {
      take(entry);
      return;
    }
    problems.error(
        Place.of(name).entry(entry.getDN()),
        "its object classes make it neither an account nor a group here",
        "object classes like those of others");
  }

  void take(Entry entry) {
    long parts = entry.getDN().chars().filter(c -> c == ',').count() + 1;
    if (parts > DEEPEST) {
      problems.error(
          Place.of(name),
          "the name of the entry " + Problem.quote(entry.getDN()) + " has " + parts + " parts",
          "at most " + DEEPEST);
      return;
    }
    String form = DnForm.of(entry.getDN());
    if (form.startsWith("?")) {
      problems.error(
          Place.of(name),
          "the name of the entry " + Problem.quote(entry.getDN()) + " is no DN",
          "a DN as in RFC 4514, like ou=people,dc=example,dc=org");
      return;
    }
    SubjectKind subject = subjectKind(entry);
    if (subject == null || subject == SubjectKind.UNIT) {
      passwords.policy(entry, form);
      host(entry);
    }
    if (subject == null) {
      into.addOther(form);
      return;
    }
    boolean isAccount = subject == SubjectKind.ACCOUNT;
    int flags = isAccount && AccountStates.isDisabled(entry) ? Facts.DISABLED : 0;
    if (isAccount && entry.hasObjectClass("computer")) {
      flags |= Facts.HOST;
      host(entry);
    }
    long expires = Facts.NEVER;
    if (isAccount) {
      AccountStates.Expiry expiry = AccountStates.expiry(entry);
      expires = expiry.at();
      flags |= AccountStates.isPasswordEnded(entry) ? Facts.PASSWORD_ENDED : 0;
      flags |= expiry.unreadable().isPresent() ? Facts.EXPIRY_UNKNOWN : 0;
      boolean untold =
          kind.id().equals(DirectoryKind.AD.id()) && !entry.hasAttribute("userAccountControl");
      flags |= untold ? Facts.STATE_UNKNOWN : 0;
      expiry.unreadable().ifPresent(value -> unreadable(entry, value));
    } else if (subject == SubjectKind.GROUP) {
      flags |= isMailOnly(entry) ? Facts.MAIL_ONLY : 0;
    }
    String login = first(entry, isAccount ? kind.logins() : kind.groupNames());
    String display = first(entry, kind.displays());
    int row =
        into.add(
            new SubjectRow(
                subject,
                id(entry, form),
                entry.getDN(),
                form,
                subject == SubjectKind.UNIT ? unitName(entry) : login,
                display,
                first(entry, List.of("mail")),
                flags,
                expires));
    if (isAccount) {
      passwords.account(entry, row, form);
    }
    references(entry, subject, row, login);
    columns(entry, row);
  }

  /** What could only be told when all entries were there. */
  void finish() {
    passwords.finish();
    withheld.forEach(into::withheld);
  }

  /** Names of hosts: computers ([MS-ADSC]), devices and hosts (RFC 4519, RFC 2307). */
  private void host(Entry entry) {
    boolean isHost =
        List.of("computer", "device", "ipHost").stream().anyMatch(entry::hasObjectClass);
    if (isHost) {
      for (String attribute : List.of("cn", "dNSHostName")) {
        List<String> names = new ArrayList<>();
        values(entry, attribute, names);
        names.forEach(into::host);
      }
    }
  }

  private void unreadable(Entry entry, String value) {
    problems.warning(
        Place.of(name).entry(entry.getDN()),
        "the expiry cannot be read: " + Problem.quote(value),
        "a number or a generalized time; the account's state is undecided");
  }

  private @Nullable SubjectKind subjectKind(Entry entry) {
    String[] written = entry.getObjectClassValues();
    if (written == null) {
      return null;
    }
    List<String> classes =
        schema.map(s -> s.withSuperclasses(List.of(written))).orElse(List.of(written));
    boolean account = false;
    boolean excluded = false;
    boolean unit = false;
    for (String name : classes) {
      String lower = name.toLowerCase(Locale.ROOT);
      if (kind.groups().contains(lower)) {
        return SubjectKind.GROUP;
      }
      account |= kind.accounts().contains(lower);
      excluded |= kind.notAccounts().contains(lower);
      unit |= kind.units().contains(lower);
    }
    if (account && !excluded) {
      return SubjectKind.ACCOUNT;
    }
    return unit ? SubjectKind.UNIT : null;
  }

  private static String unitName(Entry entry) {
    String[] parts = entry.getDN().split("[=,]", 3);
    return parts.length > 1 ? parts[1] : entry.getDN();
  }

  private String id(Entry entry, String form) {
    for (String attribute : kind.ids()) {
      byte[] bytes = entry.getAttributeValueBytes(attribute);
      if (bytes != null) {
        String text =
            switch (attribute) {
              case "objectguid" -> BinaryIds.guid(bytes).orElse("");
              case "objectsid" -> BinaryIds.sid(bytes).orElse("");
              default -> new String(bytes, StandardCharsets.UTF_8).toLowerCase(Locale.ROOT);
            };
        if (!text.isEmpty()) {
          return text;
        }
        problems.warning(
            Place.of(name).entry(entry.getDN()),
            "the " + attribute + " cannot be read",
            "a valid id; the next best one is used");
      }
    }
    return form;
  }

  /** The first value of the first attribute that has one; without options before with them. */
  private static String first(Entry entry, List<String> attributes) {
    for (String attribute : attributes) {
      String value = entry.getAttributeValue(attribute);
      if (value != null) {
        return value;
      }
    }
    for (String attribute : attributes) {
      List<Attribute> tagged = entry.getAttributesWithOptions(attribute, null);
      if (tagged != null && !tagged.isEmpty() && tagged.get(0).getValue() != null) {
        return tagged.get(0).getValue();
      }
    }
    return "";
  }

  private static boolean isMailOnly(Entry entry) {
    Integer type = entry.getAttributeValueAsInteger("groupType");
    Long wide = type == null ? entry.getAttributeValueAsLong("groupType") : Long.valueOf(type);
    return wide != null && (wide & SECURITY_ENABLED) == 0;
  }

  private void references(Entry entry, SubjectKind subject, int row, String login) {
    String sid = sid(entry);
    if (!sid.isEmpty()) {
      into.name(row, Space.SID, sid);
    }
    String gid = entry.getAttributeValue("gidNumber");
    if (subject == SubjectKind.ACCOUNT) {
      into.name(row, Space.LOGIN, login);
      if (gid != null) {
        into.refer(row, Via.PRIMARY, Space.GID, gid.strip());
        number(entry, "gidNumber", gid);
      }
      String primary = entry.getAttributeValue("primaryGroupID");
      if (primary != null && sid.lastIndexOf('-') > 0) {
        String domain = sid.substring(0, sid.lastIndexOf('-') + 1);
        into.refer(row, Via.PRIMARY, Space.SID, domain + primary.strip());
      }
    } else if (subject == SubjectKind.GROUP) {
      if (gid != null) {
        into.name(row, Space.GID, gid.strip());
        number(entry, "gidNumber", gid);
      }
      lists.members(entry, "member", Via.MEMBER, Space.DN, row);
      lists.members(entry, "uniqueMember", Via.UNIQUE_MEMBER, Space.DN, row);
      lists.members(entry, "memberUid", Via.MEMBER_UID, Space.LOGIN, row);
      withheld(entry, row);
      rules(entry, row);
    }
  }

  private void number(Entry entry, String attribute, String value) {
    if (!value.strip().matches("-?[0-9]{1,10}")) {
      problems.warning(
          Place.of(name).entry(entry.getDN()),
          attribute + ": " + Problem.quote(value) + " is no number",
          "a whole number; until then no list and no group can mean this one by its number");
    }
  }

  private void withheld(Entry entry, int row) {
    for (Map.Entry<String, Via> listing : Listings.REQUIRED.entrySet()) {
      if (!created && Listings.hides(entry, listing.getKey(), schema)) {
        into.open(row, listing.getValue());
        withheld.merge(listing.getKey(), 1, Integer::sum);
      }
    }
  }

  /** The rules of a dynamic group: LDAP addresses (RFC 4516) of those who are members. */
  private void rules(Entry entry, int row) {
    String[] urls = entry.getAttributeValues("memberURL");
    for (String url : urls == null ? new String[0] : urls) {
      Place place = Place.of(name).entry(entry.getDN());
      MemberUrl.parse(url, place)
          .ifPresentOrElse(
              rule -> into.rule(row, rule),
              () ->
                  problems.warning(
                      place,
                      "the rule cannot be read: " + Problem.quote(url),
                      "an address like ldap:///ou=people,dc=example,dc=org??sub?(title=Keeper)"));
    }
  }

  private String sid(Entry entry) {
    byte[] bytes = entry.getAttributeValueBytes("objectSid");
    Optional<String> sid = bytes == null ? Optional.empty() : BinaryIds.sid(bytes);
    if (bytes != null && sid.isEmpty()) {
      problems.warning(
          Place.of(name).entry(entry.getDN()),
          "its objectSid cannot be read",
          "a SID, in binary or as S-1-...; no list can name it until then");
    }
    return sid.orElse("");
  }

  /** The values of an attribute, those without options first. */
  private static void values(Entry entry, String name, List<String> into) {
    Attribute plain = entry.getAttribute(name);
    if (plain != null) {
      into.addAll(List.of(plain.getValues()));
    }
    for (Attribute attribute : entry.getAttributes()) {
      boolean tagged = attribute.getName().indexOf(';') > 0;
      if (tagged && attribute.getBaseName().equalsIgnoreCase(name)) {
        into.addAll(List.of(attribute.getValues()));
      }
    }
  }

  private void columns(Entry entry, int row) {
    for (String wanted : into.attributes()) {
      List<String> values = new ArrayList<>();
      List<String> names = schema.map(s -> s.names(wanted)).orElse(List.of(wanted));
      names.forEach(name -> values(entry, name, values));
      if (wanted.equals("objectclass")) {
        into.values(
            row,
            wanted,
            schema.isPresent()
                ? schema.get().withSuperclasses(values)
                : ObjectClasses.withSuperclasses(values));
      } else if (!values.isEmpty()) {
        into.values(
            row,
            wanted,
            List.copyOf(
                Set.copyOf(values).size() == values.size()
                    ? values
                    : new java.util.LinkedHashSet<>(values)));
      }
    }
  }
}
