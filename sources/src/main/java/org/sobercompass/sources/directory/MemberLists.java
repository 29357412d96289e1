package org.sobercompass.sources.directory;

import com.unboundid.asn1.ASN1OctetString;
import com.unboundid.ldap.sdk.Attribute;
import com.unboundid.ldap.sdk.Entry;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Locale;
import org.sobercompass.core.facts.FactsBuilder.Space;
import org.sobercompass.core.facts.FactsSource;
import org.sobercompass.core.facts.Via;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.problem.Problems;

/** Whom a group lists. */
final class MemberLists {
  private final String name;
  private final FactsSource into;
  private final Problems problems;

  MemberLists(String name, FactsSource into, Problems problems) {
    this.name = name;
    this.into = into;
    this.problems = problems;
  }

  /** Refers to all values of an attribute, those with options and ranges too. */
  void members(Entry entry, String attribute, Via via, Space space, int row) {
    List<Attribute> all = entry.getAttributesWithOptions(attribute, null);
    if (all == null) {
      return;
    }
    boolean ranged = false;
    boolean ended = false;
    for (Attribute listed : all) {
      String range = listed.getName().toLowerCase(Locale.ROOT);
      ranged |= range.contains(";range=");
      ended |= range.matches(".*;range=[0-9]+-[*].*");
      members(listed, via, space, row);
    }
    if (ranged && !ended) {
      into.open(row, via);
      problems.warning(
          Place.of(name).entry(entry.getDN()),
          "only a part of the members is in the export: " + all.get(0).getName(),
          "all values, as `sober survey` reads them; until then it is not known who else is in"
              + " the group");
    }
  }

  private void members(Attribute listed, Via via, Space space, int row) {
    for (ASN1OctetString value : listed.getRawValues()) {
      byte[] bytes = value.getValue();
      if (via == Via.UNIQUE_MEMBER) {
        bytes = withoutUid(bytes);
      }
      if (bytes.length > 0) {
        into.refer(row, via, space, bytes);
      }
    }
  }

  /** A name and optional UID (RFC 4517 section 3.3.21) without the UID. */
  private static byte[] withoutUid(byte[] bytes) {
    boolean hasUid =
        bytes.length > 4 && bytes[bytes.length - 1] == 'B' && bytes[bytes.length - 2] == '\'';
    if (!hasUid) {
      return bytes;
    }
    String text = new String(bytes, StandardCharsets.UTF_8);
    return text.replaceFirst("#'[01]*'B$", "").getBytes(StandardCharsets.UTF_8);
  }
}
