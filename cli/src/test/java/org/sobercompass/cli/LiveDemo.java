package org.sobercompass.cli;

import com.unboundid.ldap.sdk.Attribute;
import com.unboundid.ldap.sdk.DN;
import com.unboundid.ldap.sdk.Entry;
import com.unboundid.ldap.sdk.LDAPConnection;
import com.unboundid.ldap.sdk.SearchScope;
import com.unboundid.ldif.LDIFReader;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.stream.Collectors;
import org.sobercompass.core.amendment.Amendment;
import org.sobercompass.core.amendment.Carrying;
import org.sobercompass.core.amendment.Journal;
import org.sobercompass.core.amendment.LiveTarget;
import org.sobercompass.core.amendment.Work;
import org.sobercompass.core.descriptor.Sddl;
import org.sobercompass.sources.Secret;
import org.sobercompass.sources.TargetKind;
import org.sobercompass.sources.TargetKinds;
import org.sobercompass.sources.amendment.AmendmentFolder;
import org.sobercompass.sources.amendment.JournalFile;
import org.sobercompass.sources.descriptor.DescriptorCodec;

/**
 * Directories of the demo as live servers in this process, to be changed and exported again. What
 * has no server is changed where it stands.
 */
final class LiveDemo implements AutoCloseable {
  private final Map<String, String> suffixes;
  private final Map<String, DemoDirectory> servers = new HashMap<>();
  private final Map<String, List<Entry>> order = new HashMap<>();
  private final Map<String, Map<String, Set<String>>> before = new HashMap<>();

  /**
   * Starts servers with the exports of a workspace, which are written as the servers hold them.
   *
   * @param suffixes the suffix of each directory
   */
  LiveDemo(Path root, Path folder, Map<String, String> suffixes) throws Exception {
    this.suffixes = suffixes;
    for (String directory : suffixes.keySet()) {
      order.put(directory, entries(export(root, directory)));
      write(export(root, directory), order.get(directory));
      Path whole = folder.resolve(directory + ".ldif");
      write(whole, withParents(order.get(directory)));
      servers.put(directory, new DemoDirectory(whole, suffixes.get(directory)));
      before.put(directory, values(held(directory)));
    }
  }

  /** Exports what a server holds now into a workspace. */
  void export(String directory, Path root) throws Exception {
    write(export(root, directory), held(directory));
  }

  /** What the servers hold that they did not hold at the beginning, or held otherwise. */
  boolean isAsBefore() throws Exception {
    for (String directory : suffixes.keySet()) {
      if (!values(held(directory)).equals(before.get(directory))) {
        return false;
      }
    }
    return true;
  }

  @Override
  public void close() {
    servers.values().forEach(DemoDirectory::close);
  }

  /** The entries of a directory, descriptors in the binary form in which servers keep them. */
  static List<Entry> entries(Path ldif) throws Exception {
    List<Entry> all = new ArrayList<>();
    try (LDIFReader reader = new LDIFReader(ldif.toFile())) {
      for (Entry entry = reader.readEntry(); entry != null; entry = reader.readEntry()) {
        String list = entry.getAttributeValue("nTSecurityDescriptor");
        if (list != null && list.startsWith("O:")) {
          entry.setAttribute(
              "nTSecurityDescriptor", DescriptorCodec.write(Sddl.read(list, Optional.empty())));
        }
        all.add(entry);
      }
    }
    return all;
  }

  /** An export may leave out what a server must have: the entries above others. */
  static List<Entry> withParents(List<Entry> entries) throws Exception {
    Set<String> there = entries.stream().map(Entry::getDN).collect(Collectors.toSet());
    List<Entry> all = new ArrayList<>();
    for (Entry entry : entries) {
      List<Entry> above = new ArrayList<>();
      DN parent = entry.getParentDN();
      while (all.size() > 0 && parent != null && there.add(parent.toString())) {
        above.add(0, new Entry(parent, new Attribute("objectClass", "container")));
        parent = parent.getParent();
      }
      all.addAll(above);
      all.add(entry);
    }
    return all;
  }

  private static String text(List<Entry> entries) {
    return entries.stream()
        .map(entry -> String.join("\n", entry.toLDIF()) + "\n")
        .collect(Collectors.joining("\n", "version: 1\n\n", ""));
  }

  static void write(Path ldif, List<Entry> entries) throws IOException {
    Files.writeString(ldif, text(entries));
  }

  static Path export(Path root, String directory) {
    return root.resolve("directory/" + directory + ".ldif");
  }

  /** What a server holds now, in the order of the export, values in one order. */
  List<Entry> held(String directory) throws Exception {
    String address = servers.get(directory).address();
    int port = Integer.parseInt(address.substring(address.lastIndexOf(':') + 1));
    Map<String, Entry> now = new LinkedHashMap<>();
    try (LDAPConnection connection = new LDAPConnection("127.0.0.1", port)) {
      connection
          .search(suffixes.get(directory), SearchScope.SUB, "(objectClass=*)", "*", "+")
          .getSearchEntries()
          .forEach(entry -> now.put(entry.getDN(), entry));
    }
    return order.get(directory).stream().map(entry -> now.get(entry.getDN())).toList();
  }

  static Map<String, Set<String>> values(List<Entry> entries) {
    Map<String, Set<String>> all = new TreeMap<>();
    for (Entry entry : entries) {
      all.put(entry.getDN(), Set.of(entry.toLDIF()));
    }
    return all;
  }

  Work work(AmendmentFolder amendment, String target, Path root, boolean undo) {
    Amendment.Target of = amendment.amendment().target(target).orElseThrow();
    String where = servers.containsKey(target) ? servers.get(target).address() : root.toString();
    TargetKind.Door door =
        new TargetKind.Door(
            target, where, Optional.empty(), Optional.empty(), true, Optional.empty());
    try (LiveTarget live =
            TargetKinds.of(of.kind()).orElseThrow().open(door, Secret.Origins.PROCESS);
        JournalFile file = JournalFile.open(amendment, target)) {
      Journal journal = new Journal(file.before(), file);
      Carrying carrying = new Carrying(live, journal, Clock.systemUTC(), false, done -> {});
      return undo
          ? carrying.undo(amendment.amendment().of(target))
          : carrying.carryOut(amendment.amendment().of(target));
    }
  }
}
