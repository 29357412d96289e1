package org.sobercompass.core.delegation;

import java.nio.charset.StandardCharsets;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.IntStream;
import org.sobercompass.core.descriptor.Descriptor;
import org.sobercompass.core.system.Resources;

/**
 * The objects of one directory in the order of their tree, with their access control lists, equal
 * ones once. Objects below one stand right after it. Frozen and thread-safe. Memory: some 60 bytes
 * an object beside its name.
 */
public final class DirectoryTree implements Resources {
  /** There is no descriptor: it could not be read. */
  public static final int UNREADABLE = -1;

  private static final byte[] GUARD = "AdminSDHolder".getBytes(StandardCharsets.UTF_8);

  /** Classes of objects that are the tops of naming contexts, besides the domain itself. */
  private static final Set<String> TOPS = Set.of("configuration", "dmd");

  private final String directory;
  private final DsNames names;
  private final TreeArrays arrays;
  private final Map<String, Integer> bySid;
  private final int[] firstEntry;

  /** A tree over arrays, for {@link TreeBuilder}. */
  DirectoryTree(String directory, DsNames names, TreeArrays arrays) {
    this.directory = directory;
    this.names = names;
    this.arrays = arrays;
    this.bySid = new HashMap<>();
    for (int object = 0; object < size(); object++) {
      if (!arrays.sid().isEmpty(object)) {
        bySid.putIfAbsent(arrays.sid().get(object), object);
      }
    }
    this.firstEntry = firstEntries();
  }

  /** The same objects with other lists. */
  private DirectoryTree(
      DirectoryTree of, int[] descriptor, List<Descriptor> descriptors, boolean sameNumbers) {
    this.directory = of.directory;
    this.names = of.names;
    this.bySid = of.bySid;
    this.arrays = of.arrays.with(descriptor, descriptors);
    this.firstEntry = sameNumbers ? of.firstEntry : firstEntries();
  }

  /** The number of the first entry of each object. */
  private int[] firstEntries() {
    int[] first = new int[size() + 1];
    for (int object = 0; object < size(); object++) {
      first[object + 1] =
          first[object] + 1 + descriptor(object).map(d -> d.entries().size()).orElse(0);
    }
    return first;
  }

  /**
   * A view with other lists of as many entries: objects and entries keep their numbers. The lists
   * are those of this tree, in their order, and more.
   */
  DirectoryTree with(int[] descriptor, List<Descriptor> descriptors) {
    return new DirectoryTree(this, descriptor, descriptors, true);
  }

  /** A view with other lists: objects keep their numbers, entries do not. O(objects). */
  DirectoryTree withMore(int[] descriptor, List<Descriptor> descriptors) {
    return new DirectoryTree(this, descriptor, descriptors, false);
  }

  /** The numbers of the descriptors, of all objects; a copy. */
  int[] descriptorNumbers() {
    return arrays.descriptor().clone();
  }

  /** The name of the directory. */
  public String directory() {
    return directory;
  }

  /** What identifiers name in it. */
  public DsNames names() {
    return names;
  }

  /** How many objects there are. */
  @Override
  public int size() {
    return arrays.parent().length;
  }

  /** The name as written. */
  public String dn(int object) {
    return arrays.dn().get(object);
  }

  /** The name in canonical form. */
  public String dnForm(int object) {
    return arrays.dnForm().get(object);
  }

  /** The name for people. */
  public String label(int object) {
    return arrays.label().get(object);
  }

  /** The object above, or -1. */
  @Override
  public int parent(int object) {
    return arrays.parent()[object];
  }

  /** One after the last object below; {@code object + 1} when there is none. */
  @Override
  public int end(int object) {
    return arrays.end()[object];
  }

  /**
   * Whether an object stands right below its parent here and in the same naming context, so that it
   * inherits from it: what lies between may not have been exported, and the top of a context
   * inherits nothing ([MS-ADTS] 3.1.1.1.5).
   */
  public boolean isHandedTo(int object) {
    int parent = parent(object);
    if (parent < 0 || TOPS.contains(objectClass(object).toLowerCase(java.util.Locale.ROOT))) {
      return false;
    }
    String own = dnForm(object);
    int cut = own.length() - dnForm(parent).length() - 1;
    for (int i = 0; i < cut; i++) {
      if (own.charAt(i) == '\\') {
        i++;
      } else if (own.charAt(i) == ',') {
        return false;
      }
    }
    return cut > 0;
  }

  /** The name of its class. */
  public String objectClass(int object) {
    return arrays.classes().get(arrays.kind()[object]);
  }

  /** The number of its class. */
  public int kind(int object) {
    return arrays.kind()[object];
  }

  /** The number of its descriptor, equal for equal ones, or {@link #UNREADABLE}. */
  public int descriptorNumber(int object) {
    return arrays.descriptor()[object];
  }

  /** The descriptor with this number. */
  public Descriptor descriptorOf(int number) {
    return arrays.descriptors().get(number);
  }

  /** How many objects have a list that could not be read. */
  public int unreadable() {
    return (int) IntStream.of(arrays.descriptor()).filter(n -> n == UNREADABLE).count();
  }

  /** How many distinct descriptors there are. */
  public int descriptors() {
    return arrays.descriptors().size();
  }

  /** Its descriptor; empty when it could not be read. */
  public Optional<Descriptor> descriptor(int object) {
    int number = arrays.descriptor()[object];
    return number < 0 ? Optional.empty() : Optional.of(arrays.descriptors().get(number));
  }

  /**
   * The number of an entry among all of the tree; before the entries of each object stands one for
   * its ownership.
   *
   * @param entry its number in the list, or -1 for the ownership
   */
  public int entryNumber(int object, int entry) {
    return firstEntry[object] + 1 + entry;
  }

  /** How many numbers of entries there are. */
  public int entryNumbers() {
    return firstEntry[size()];
  }

  /** The object whose entry, or ownership, has a number. */
  public int objectOfEntry(int number) {
    int low = 0;
    int high = size();
    while (low + 1 < high) {
      int middle = (low + high) >>> 1;
      if (firstEntry[middle] <= number) {
        low = middle;
      } else {
        high = middle;
      }
    }
    return low;
  }

  /** All whom its lists name, owners among them. O(entries of distinct lists). */
  public Set<String> trustees() {
    Set<String> found = new LinkedHashSet<>();
    for (Descriptor descriptor : arrays.descriptors()) {
      descriptor.entries().forEach(ace -> found.add(ace.trustee()));
      descriptor.owner().ifPresent(found::add);
    }
    return found;
  }

  /** Its SID, or empty. */
  public String sid(int object) {
    return arrays.sid().get(object);
  }

  /** SIDs it brought along from an earlier directory. */
  public List<String> history(int object) {
    return arrays.history().getOrDefault(object, List.of());
  }

  /** The groups that list a trustee of elsewhere by this SID. */
  public List<Integer> listing(String sid) {
    return arrays.foreign().getOrDefault(sid, List.of());
  }

  /**
   * Whether an implicit trustee that a group lists (everyone signed in, say) counts as its member.
   * Domain controllers look such members up for built-in groups; for groups of the domain only
   * where the workspace says so.
   */
  public boolean countsImplicit(int group) {
    return arrays.implicitEverywhere() || sid(group).startsWith("S-1-5-32-");
  }

  /** The SIDs of trustees of elsewhere that groups here list. */
  public java.util.Set<String> listed() {
    return arrays.foreign().keySet();
  }

  /** Whether the directory keeps its list as of a protected administrator ({@code adminCount}). */
  public boolean isGuarded(int object) {
    return arrays.privileges().get(object);
  }

  /** Whether it is the object whose list protected administrators get ([MS-ADTS] 3.1.1.6.1). */
  public boolean isGuard(int object) {
    return arrays.label().equalsBytes(object, GUARD)
        && dnForm(object).startsWith("cn=adminsdholder,cn=system,");
  }

  /** The object with this SID, or -1. */
  public int bySid(String sid) {
    return bySid.getOrDefault(sid, -1);
  }

  @Override
  public String id(int object) {
    return dn(object);
  }

  @Override
  public String name(int object) {
    return label(object);
  }

  @Override
  public int depth(int object) {
    int depth = 0;
    for (int at = parent(object); at >= 0; at = parent(at)) {
      depth++;
    }
    return depth;
  }

  @Override
  public Optional<Integer> find(String id) {
    return IntStream.range(0, size()).filter(o -> dn(o).equals(id)).boxed().findFirst();
  }

  @Override
  public List<String> ids() {
    return IntStream.range(0, size()).mapToObj(this::dn).toList();
  }

  /** The object with this canonical name, or -1. O(objects). */
  public int findForm(String form) {
    byte[] wanted = form.getBytes(StandardCharsets.UTF_8);
    return IntStream.range(0, size())
        .filter(object -> arrays.dnForm().equalsBytes(object, wanted))
        .findFirst()
        .orElse(-1);
  }
}
