package org.sobercompass.sources.delegation;

import com.unboundid.ldap.sdk.Entry;
import com.unboundid.util.Base64;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.sobercompass.core.delegation.DirectoryTree;
import org.sobercompass.core.delegation.DsNames;
import org.sobercompass.core.delegation.TreeBuilder;
import org.sobercompass.core.descriptor.Descriptor;
import org.sobercompass.core.descriptor.MalformedException;
import org.sobercompass.core.descriptor.Sddl;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.sources.descriptor.DescriptorCodec;
import org.sobercompass.sources.directory.BinaryIds;
import org.sobercompass.sources.directory.DnForm;
import org.sobercompass.sources.directory.LdifSource;
import org.sobercompass.sources.text.TextFiles;

/**
 * Reads the objects of a directory with their lists ({@code nTSecurityDescriptor}, binary, or SDDL
 * as text) from LDIF, and the names of classes, attributes and rights where the export has the
 * schema and the configuration. Not thread-safe; use once.
 */
public final class TreeReader {
  private static final Pattern FOREIGN =
      Pattern.compile("^cn=(S-1(?:-[0-9]{1,15}){1,16}),", Pattern.CASE_INSENSITIVE);
  private static final int MOST_TOLD = 20;

  private final String shown;
  private final Problems problems;
  private final TreeBuilder builder;
  private final SchemaNames names = new SchemaNames();
  private final Map<String, Optional<Descriptor>> parsed = new HashMap<>();
  private Optional<String> domain = Optional.empty();
  private int told;

  /**
   * A reader.
   *
   * @param directory the name of the directory
   * @param shown how the user names the file
   */
  public TreeReader(String directory, String shown, Problems problems) {
    this.shown = shown;
    this.problems = problems;
    this.builder = new TreeBuilder(directory);
  }

  /** Says that implicit trustees count as members of every group that lists them. */
  public void implicitEverywhere() {
    builder.implicitEverywhere();
  }

  /** Reads classes, attributes and rights that stand in a file of their own. */
  public void names(Path file) {
    String name = String.valueOf(file.getFileName());
    Problems told = new Problems();
    TextFiles.stream(file, name, told, in -> LdifSource.entries(in, name, problems, names::take));
    if (told.errors() > 0) {
      problems.warning(
          Place.of(name),
          "the file with names of classes, attributes and rights cannot be read",
          "an export of the schema or of cn=Extended-Rights,cn=Configuration");
    }
  }

  /** Reads a whole export. */
  public DirectoryTree read(Path file) {
    // What is wrong with the export is told by whoever reads accounts and groups from it.
    TextFiles.stream(
        file, shown, problems, in -> LdifSource.entries(in, shown, new Problems(), this::take));
    return finish();
  }

  /** Takes one entry. */
  private void take(Entry entry) {
    names.take(entry);
    String form = DnForm.of(entry.getDN());
    String[] classes = entry.getObjectClassValues();
    byte[] sidBytes = entry.getAttributeValueBytes("objectSid");
    String sid = sidBytes == null ? "" : BinaryIds.sid(sidBytes).orElse("");
    if (entry.hasObjectClass("domainDNS") && domain.isEmpty() && !sid.isEmpty()) {
      domain = Optional.of(sid);
    }
    List<String> history = new ArrayList<>();
    byte[][] old = entry.getAttributeValueByteArrays("sIDHistory");
    for (byte[] one : old == null ? new byte[0][] : old) {
      BinaryIds.sid(one).ifPresent(history::add);
    }
    builder.add(
        new TreeBuilder.Row(
            entry.getDN(),
            form,
            classes == null ? "" : String.join("|", classes).toLowerCase(Locale.ROOT),
            descriptor(entry),
            sid,
            label(entry),
            history,
            "1".equals(entry.getAttributeValue("adminCount"))));
    String[] members = entry.getAttributeValues("member");
    for (String member : members == null ? new String[0] : members) {
      Matcher foreign = FOREIGN.matcher(member);
      if (foreign.find()) {
        builder.lists(form, foreign.group(1).toUpperCase(Locale.ROOT));
      }
    }
  }

  private static String label(Entry entry) {
    String display = entry.getAttributeValue("displayName");
    if (display != null) {
      return display;
    }
    try {
      return entry.getRDN() == null ? entry.getDN() : entry.getRDN().getAttributeValues()[0];
    } catch (com.unboundid.ldap.sdk.LDAPException e) {
      return entry.getDN();
    }
  }

  private Optional<Descriptor> descriptor(Entry entry) {
    byte[] bytes = entry.getAttributeValueBytes("nTSecurityDescriptor");
    if (bytes == null) {
      return Optional.empty();
    }
    boolean text = bytes.length >= 2 && bytes[1] == ':' && "OGDS".indexOf(bytes[0]) >= 0;
    String key = text ? new String(bytes, StandardCharsets.UTF_8) : Base64.encode(bytes);
    Optional<Descriptor> known = parsed.get(key);
    if (known == null) {
      known = parse(entry, bytes, text);
      parsed.put(key, known);
    } else if (known.isEmpty()) {
      tell(entry, "its access control list cannot be read", "as above");
    }
    return known;
  }

  private Optional<Descriptor> parse(Entry entry, byte[] bytes, boolean text) {
    try {
      return Optional.of(
          text
              ? Sddl.read(new String(bytes, StandardCharsets.UTF_8), domain)
              : DescriptorCodec.read(bytes));
    } catch (MalformedException e) {
      String at = (text ? " at its column " : " at its byte ") + e.at();
      tell(
          entry,
          "its access control list is wrong" + at + ": " + e.getMessage(),
          e.expected() + "; what depends on it is undecided");
      return Optional.empty();
    }
  }

  private void tell(Entry entry, String what, String expected) {
    if (++told <= MOST_TOLD) {
      problems.add(Problem.warning(Place.of(shown).entry(entry.getDN()), what, expected));
    }
  }

  private DirectoryTree finish() {
    if (told > MOST_TOLD) {
      problems.add(
          Problem.warning(
              Place.of(shown),
              (told - MOST_TOLD) + " more objects have lists that cannot be read",
              "what depends on them is undecided"));
    }
    DsNames all = names.freeze(domain);
    return builder.build(all);
  }
}
