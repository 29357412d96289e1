package org.sobercompass.sources.live;

import com.unboundid.ldap.sdk.Attribute;
import com.unboundid.ldap.sdk.Entry;
import com.unboundid.ldap.sdk.LDAPException;
import com.unboundid.ldif.LDIFWriter;
import com.unboundid.util.StaticUtils;
import java.io.BufferedOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.io.UncheckedIOException;
import java.nio.ByteBuffer;
import java.nio.channels.Channels;
import java.nio.channels.FileChannel;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.text.ParseException;
import java.time.Clock;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.UUID;
import java.util.function.IntConsumer;
import org.sobercompass.core.problem.Completeness;
import org.sobercompass.core.problem.OutsideException;
import org.sobercompass.sources.Bounds;
import org.sobercompass.sources.Secret;
import org.sobercompass.sources.directory.DirectorySchema;
import org.sobercompass.sources.directory.DnForm;
import org.sobercompass.sources.directory.Secrets;

/**
 * Reads a live directory whole and writes it as LDIF (RFC 2849). A base whose connection breaks is
 * begun again on a new one; after {@link #ATTEMPTS} the whole fails, so that half is never taken
 * for all. Memory: an id an entry, or its name where it has none, to name entries that moved.
 */
public final class Collector {
  /** How many connections are tried before giving up. */
  public static final int ATTEMPTS = 3;

  private static final int MOST_NAMED = 50;
  private static final int TELL_EVERY = 5000;
  private static final String LIST = "ntsecuritydescriptor";

  private final LdapAccess access;
  private final Secret.Origins origins;
  private final Clock clock;
  private final IntConsumer progress;

  private final Map<String, int[]> returned = new TreeMap<>();
  private final Set<Object> ids = new HashSet<>();
  private final List<String> moved = new ArrayList<>();
  private final List<String> referrals = new ArrayList<>();
  private Instant started = Instant.EPOCH;
  private int entries;
  private final Map<String, int[]> withheld = new TreeMap<>();
  private Optional<DirectorySchema> schema = Optional.empty();
  private final Bounds bounds;
  private boolean asksForLists;
  private int attempts;

  /**
   * A collector.
   *
   * @param progress is told the number of entries now and then
   */
  public Collector(LdapAccess access, Secret.Origins origins, Clock clock, IntConsumer progress) {
    this(access, origins, clock, progress, new Bounds());
  }

  /** Gives up beyond other bounds than the usual ones. */
  Collector(
      LdapAccess access, Secret.Origins origins, Clock clock, IntConsumer progress, Bounds bounds) {
    this.bounds = bounds;
    this.access = access;
    this.origins = origins;
    this.clock = clock;
    this.progress = progress;
  }

  /**
   * Writes all entries into a new file.
   *
   * @throws OutsideException when the directory cannot be read whole; the file is useless then
   */
  public Collected into(Path ldif) {
    started = clock.instant().truncatedTo(ChronoUnit.MILLIS);
    LdapSession session = LdapSession.open(access, origins);
    try (FileChannel file =
        FileChannel.open(
            ldif,
            StandardOpenOption.CREATE,
            StandardOpenOption.WRITE,
            StandardOpenOption.TRUNCATE_EXISTING)) {
      RootEntry root = session.root();
      String identity = session.identity();
      schema = session.schema();
      asksForLists = root.controls().contains(EntryReader.LISTS);
      List<String> bases = access.bases().isEmpty() ? root.contexts() : access.bases();
      for (String base : bases) {
        session = whole(base, root, session, file);
      }
      Optional<String> after = session.root().change();
      return new Collected(
          identity,
          started,
          clock.instant().truncatedTo(ChronoUnit.MILLIS),
          root.change(),
          after,
          entries,
          List.copyOf(bases),
          List.copyOf(referrals),
          List.copyOf(moved),
          attempts + 1,
          completeness(),
          schema);
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    } finally {
      session.close();
    }
  }

  /** Reads one base, beginning again where the connection breaks. */
  private LdapSession whole(String base, RootEntry root, LdapSession first, FileChannel file)
      throws IOException {
    LdapSession session = first;
    long begin = file.position();
    Mark mark = new Mark();
    while (true) {
      try {
        base(base, root, session, file);
        return session;
      } catch (LDAPException e) {
        session.close();
        if (!LdapFailure.isConnection(e) || ++attempts >= ATTEMPTS) {
          throw LdapFailure.of(access, "read below " + base, e);
        }
        file.truncate(begin);
        file.position(begin);
        mark.back();
        session = LdapSession.open(access, origins);
      }
    }
  }

  private void base(String base, RootEntry root, LdapSession session, FileChannel file)
      throws LDAPException, IOException {
    OutputStream out = new BufferedOutputStream(Channels.newOutputStream(file), 1 << 18);
    LDIFWriter ldif = new LDIFWriter(out);
    ldif.setWrapColumn(0);
    EntryReader reader = new EntryReader(session, root, bounds, entry -> keep(entry, ldif));
    reader.read(base, "(objectClass=*)");
    ldif.flush();
    out.flush();
    referrals.addAll(reader.referrals());
  }

  private void keep(Entry entry, LDIFWriter ldif) {
    if (!ids.add(id(entry))) {
      name(entry.getDN());
      return;
    }
    if (changedMeanwhile(entry)) {
      name(entry.getDN());
    }
    entries++;
    missing(entry);
    for (Attribute attribute : entry.getAttributes()) {
      String name = attribute.getBaseName().toLowerCase(Locale.ROOT);
      returned.computeIfAbsent(name, n -> new int[1])[0]++;
    }
    try {
      ldif.writeEntry(entry);
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
    if (entries % TELL_EVERY == 0) {
      progress.accept(entries);
    }
  }

  /**
   * What an entry must have and does not show was withheld: its classes, and what they require by
   * the schema. Secrets are left out by us.
   */
  private void missing(Entry entry) {
    String[] classes = entry.getObjectClassValues();
    if (classes == null) {
      withheld.computeIfAbsent("objectclass", n -> new int[1])[0]++;
    } else if (schema.isPresent()) {
      for (String must : schema.get().required(List.of(classes))) {
        boolean leftOut = Secrets.isSecret(must) || (must.equals(LIST) && !asksForLists);
        if (!leftOut && !entry.hasAttribute(must)) {
          withheld.computeIfAbsent(must, n -> new int[1])[0]++;
        }
      }
    }
  }

  private void name(String dn) {
    if (moved.size() < MOST_NAMED) {
      moved.add(dn);
    }
  }

  /** By the server's clock, which may differ from ours; so this names, and decides nothing. */
  private boolean changedMeanwhile(Entry entry) {
    String changed = entry.getAttributeValue("modifyTimestamp");
    try {
      return changed != null
          && StaticUtils.decodeGeneralizedTime(changed).toInstant().isAfter(started);
    } catch (ParseException e) {
      return false;
    }
  }

  /** The immutable id, or the whole name where there is none: a hash alone is no identity. */
  private static Object id(Entry entry) {
    String uuid = entry.getAttributeValue("entryUUID");
    if (uuid != null) {
      try {
        return UUID.fromString(uuid);
      } catch (IllegalArgumentException e) {
        return uuid;
      }
    }
    byte[] guid = entry.getAttributeValueBytes("objectGUID");
    if (guid != null && guid.length == 16) {
      ByteBuffer bytes = ByteBuffer.wrap(guid);
      return new UUID(bytes.getLong(), bytes.getLong());
    }
    return DnForm.of(entry.getDN());
  }

  private List<Completeness> completeness() {
    List<Completeness> all = new ArrayList<>();
    Set<String> attributes = new TreeSet<>(returned.keySet());
    attributes.addAll(withheld.keySet());
    for (String attribute : attributes) {
      int there = returned.getOrDefault(attribute, new int[1])[0];
      int not = withheld.getOrDefault(attribute, new int[1])[0];
      all.add(new Completeness(access.name(), attribute, entries, there, not));
    }
    return all;
  }

  /** What was counted before a base was begun, to go back to. */
  private final class Mark {
    private final Map<String, Integer> counts = copy(returned);
    private final Set<Object> known = new HashSet<>(ids);
    private final int written = entries;
    private final Map<String, Integer> bare = copy(withheld);
    private final int named = moved.size();

    void back() {
      entries = written;
      restore(withheld, bare);
      restore(returned, counts);
      ids.retainAll(known);
      moved.subList(named, moved.size()).clear();
    }

    private static Map<String, Integer> copy(Map<String, int[]> counters) {
      Map<String, Integer> copy = new TreeMap<>();
      counters.forEach((attribute, count) -> copy.put(attribute, count[0]));
      return copy;
    }

    private static void restore(Map<String, int[]> counters, Map<String, Integer> copy) {
      counters.keySet().retainAll(copy.keySet());
      counters.forEach((attribute, count) -> count[0] = copy.getOrDefault(attribute, 0));
    }
  }
}
