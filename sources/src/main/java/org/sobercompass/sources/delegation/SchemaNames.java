package org.sobercompass.sources.delegation;

import com.unboundid.ldap.sdk.Entry;
import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStream;
import java.io.InputStreamReader;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.UUID;
import org.sobercompass.core.delegation.DsNames;
import org.sobercompass.core.descriptor.Descriptor;
import org.sobercompass.core.descriptor.DsRights;
import org.sobercompass.core.descriptor.MalformedException;
import org.sobercompass.core.descriptor.Sddl;
import org.sobercompass.sources.directory.BinaryIds;

/**
 * Collects the names of classes, attributes and rights: from the directory's own schema and
 * configuration where they are there, from the published identifiers where not. Not thread-safe.
 */
final class SchemaNames {
  private static final int CONFIDENTIAL = 0x80;
  private static final int CONSTRUCTED = 0x4;
  private static final String PUBLISHED = "published-names.csv";

  private final List<RawClass> classes = new ArrayList<>();
  private final List<DsNames.AttributeType> attributes = new ArrayList<>();
  private final List<DsNames.ControlRight> rights = new ArrayList<>();

  private record RawClass(String name, UUID id, String above, String byDefault) {}

  /** Whether the directory's own schema was read, so that what it does not have is not there. */
  boolean isWhole() {
    return !classes.isEmpty() && !attributes.isEmpty() && !rights.isEmpty();
  }

  /** Keeps what an entry of the schema or the configuration names; all others are passed over. */
  void take(Entry entry) {
    if (entry.hasObjectClass("classSchema")) {
      guid(entry, "schemaIDGUID")
          .ifPresent(
              id ->
                  classes.add(
                      new RawClass(
                          text(entry, "lDAPDisplayName"),
                          id,
                          text(entry, "subClassOf"),
                          text(entry, "defaultSecurityDescriptor"))));
    } else if (entry.hasObjectClass("attributeSchema")) {
      Integer flags = entry.getAttributeValueAsInteger("searchFlags");
      guid(entry, "schemaIDGUID")
          .ifPresent(
              id ->
                  attributes.add(
                      new DsNames.AttributeType(
                          text(entry, "lDAPDisplayName"),
                          id,
                          guid(entry, "attributeSecurityGUID"),
                          flags != null && (flags & CONFIDENTIAL) != 0,
                          fixed(entry))));
    } else if (entry.hasObjectClass("controlAccessRight")) {
      Integer access = entry.getAttributeValueAsInteger("validAccesses");
      guid(entry, "rightsGuid")
          .ifPresent(
              id ->
                  rights.add(
                      new DsNames.ControlRight(
                          text(entry, "cn"),
                          text(entry, "displayName"),
                          id,
                          access == null ? DsRights.CONTROL_ACCESS : access)));
    }
  }

  /** Why nobody can write an attribute ([MS-ADTS] 3.1.1.2.3), or empty. */
  private static String fixed(Entry entry) {
    Integer link = entry.getAttributeValueAsInteger("linkID");
    Integer flags = entry.getAttributeValueAsInteger("systemFlags");
    if (link != null && link % 2 == 1) {
      return "it is a back link, which the directory keeps itself";
    }
    if (flags != null && (flags & CONSTRUCTED) != 0) {
      return "it is constructed, and stored nowhere";
    }
    return "true".equalsIgnoreCase(entry.getAttributeValue("systemOnly"))
        ? "only the system writes it"
        : "";
  }

  private static String text(Entry entry, String attribute) {
    String value = entry.getAttributeValue(attribute);
    return value == null ? "" : value;
  }

  private static Optional<UUID> guid(Entry entry, String attribute) {
    byte[] bytes = entry.getAttributeValueBytes(attribute);
    return bytes == null ? Optional.empty() : BinaryIds.guid(bytes).map(UUID::fromString);
  }

  /** All names; the directory's own win over the published ones. */
  DsNames freeze(Optional<String> domain) {
    DsNames names = new DsNames();
    if (isWhole()) {
      names.whole();
    }
    if (!classes.isEmpty()) {
      names.ownClasses();
    }
    published(names);
    for (RawClass raw : classes) {
      names.add(
          new DsNames.ObjectClass(raw.name, raw.id, raw.above, byDefault(raw.byDefault, domain)));
    }
    attributes.forEach(names::add);
    rights.forEach(names::add);
    return names;
  }

  private static Optional<Descriptor> byDefault(String sddl, Optional<String> domain) {
    try {
      return sddl.isEmpty() ? Optional.empty() : Optional.of(Sddl.read(sddl, domain));
    } catch (MalformedException e) {
      return Optional.empty();
    }
  }

  /** The identifiers that [MS-ADSC], [MS-ADA1] to [MS-ADA3] and [MS-ADTS] 5.1.3.2.1 publish. */
  private static void published(DsNames names) {
    try (InputStream in = SchemaNames.class.getResourceAsStream(PUBLISHED)) {
      if (in == null) {
        return;
      }
      BufferedReader lines =
          new BufferedReader(new InputStreamReader(in, StandardCharsets.US_ASCII));
      for (String line = lines.readLine(); line != null; line = lines.readLine()) {
        String[] parts = line.split(",", -1);
        UUID id = UUID.fromString(parts[2]);
        switch (parts[0]) {
          case "c" -> names.add(new DsNames.ObjectClass(parts[1], id, parts[3], Optional.empty()));
          case "a" ->
              names.add(
                  new DsNames.AttributeType(
                      parts[1],
                      id,
                      parts[3].isEmpty()
                          ? Optional.empty()
                          : Optional.of(UUID.fromString(parts[3])),
                      "y".equals(parts[4])));
          default ->
              names.add(
                  new DsNames.ControlRight(parts[1], parts[4], id, Integer.parseInt(parts[3])));
        }
      }
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }
}
