package org.sobercompass.sources.live;

import com.unboundid.ldap.sdk.Entry;
import com.unboundid.ldap.sdk.LDAPException;
import com.unboundid.ldap.sdk.RDN;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.sobercompass.core.key.Key;
import org.sobercompass.core.key.KeyKind;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.core.proposal.Step;
import org.sobercompass.sources.SourceKind;
import org.sobercompass.sources.directory.DnForm;
import org.sobercompass.sources.directory.LdifSource;
import org.sobercompass.sources.text.TextFiles;

/** A new group in the place and of the object classes of another one. Use once. */
final class GroupLike {
  /** Taken over as they are; the rest of an entry says who the other group is. */
  private static final List<String> OF_THE_KIND = List.of("objectClass", "groupType");

  private static final List<String> NAMES = List.of("cn", "sAMAccountName");

  private final String directory;
  private final String like;
  private final String name;
  private @Nullable Entry found;
  private long highest = -1;

  GroupLike(String directory, String like, String name) {
    this.directory = directory;
    this.like = DnForm.of(like);
    this.name = name;
  }

  /** Goes through the entries once: for the other group, and for the highest group number. */
  Optional<Step.Presence> read(SourceKind.Entries entries) {
    Problems problems = new Problems();
    TextFiles.stream(
        entries.path(),
        entries.shown(),
        problems,
        in -> LdifSource.entries(in, entries.shown(), new Problems(), this::take));
    problems.throwIfErrors();
    return found == null ? Optional.empty() : Optional.of(of(found));
  }

  private void take(Entry entry) {
    Long number = entry.getAttributeValueAsLong("gidNumber");
    if (number != null) {
      highest = Math.max(highest, number);
    }
    if (DnForm.of(entry.getDN()).equals(like)) {
      found = entry;
    }
  }

  private Step.Presence of(Entry entry) {
    Map<String, List<String>> attributes = new LinkedHashMap<>();
    for (String attribute : OF_THE_KIND) {
      put(entry, attribute, attributes);
    }
    for (String attribute : NAMES) {
      if (entry.hasAttribute(attribute)) {
        attributes.put(attribute, List.of(name));
      }
    }
    if (entry.hasAttribute("gidNumber")) {
      attributes.put("gidNumber", List.of(String.valueOf(highest + 1)));
    }
    String dn = dn(entry);
    return new Step.Presence(
        new Key(KeyKind.GROUP, directory, DnForm.of(dn)), dn, attributes, true);
  }

  private static void put(Entry entry, String attribute, Map<String, List<String>> into) {
    String[] values = entry.getAttributeValues(attribute);
    if (values != null) {
      into.put(attribute, List.of(values));
    }
  }

  private String dn(Entry entry) {
    try {
      RDN own = entry.getRDN();
      String attribute = own == null ? "cn" : own.getAttributeNames()[0];
      String above = entry.getParentDNString();
      return new RDN(attribute, name) + (above == null ? "" : "," + above);
    } catch (LDAPException e) {
      throw new IllegalStateException(e); // its own name was compared before
    }
  }
}
