package org.sobercompass.core.delegation;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.BitSet;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.sobercompass.core.descriptor.Descriptor;
import org.sobercompass.core.store.Texts;

/** Collects the objects of a directory in any order. Not thread-safe; {@link #build} once. */
public final class TreeBuilder {
  private final String directory;
  private final List<Row> rows = new ArrayList<>();
  private final Map<String, Integer> classes = new HashMap<>();
  private final List<String> classNames = new ArrayList<>();
  private final Map<Descriptor, Integer> descriptors = new HashMap<>();
  private final List<Descriptor> distinct = new ArrayList<>();
  private final Map<String, List<String>> foreign = new HashMap<>();
  private boolean implicitEverywhere;

  /**
   * One object.
   *
   * @param dn its name as written
   * @param dnForm its name in canonical form
   * @param objectClass the names of its classes, joined by bars
   * @param descriptor its descriptor; empty when it could not be read
   * @param sid its SID, or empty
   * @param label the name for people
   * @param history SIDs brought along from elsewhere
   * @param guarded whether {@code adminCount} marks it
   */
  public record Row(
      String dn,
      String dnForm,
      String objectClass,
      Optional<Descriptor> descriptor,
      String sid,
      String label,
      List<String> history,
      boolean guarded) {}

  /** For the directory of this name. */
  public TreeBuilder(String directory) {
    this.directory = directory;
  }

  /** Adds an object. Its descriptor is kept once for all that have an equal one. */
  public void add(Row row) {
    Optional<Descriptor> kept = row.descriptor.map(d -> distinct.get(number(d)));
    classes.computeIfAbsent(
        row.objectClass,
        name -> {
          classNames.add(name);
          return classNames.size() - 1;
        });
    rows.add(
        new Row(
            row.dn,
            row.dnForm,
            row.objectClass,
            kept,
            row.sid,
            row.label,
            row.history,
            row.guarded));
  }

  private int number(Descriptor descriptor) {
    return descriptors.computeIfAbsent(
        descriptor,
        d -> {
          distinct.add(d);
          return distinct.size() - 1;
        });
  }

  /** Says that implicit trustees count as members of every group that lists them. */
  public void implicitEverywhere() {
    implicitEverywhere = true;
  }

  /** Notes that a group (canonical name) lists a trustee of elsewhere by its SID. */
  public void lists(String groupForm, String sid) {
    foreign.computeIfAbsent(sid, s -> new ArrayList<>()).add(groupForm);
  }

  /** Freezes the tree. O(n log n) for the order. */
  public DirectoryTree build(DsNames names) {
    int size = rows.size();
    String[] keys = new String[size];
    Integer[] order = new Integer[size];
    for (int i = 0; i < size; i++) {
      keys[i] = turned(rows.get(i).dnForm);
      order[i] = i;
    }
    Arrays.sort(order, java.util.Comparator.comparing(i -> keys[i]));
    int[] parent = new int[size];
    int[] end = new int[size];
    int[] kind = new int[size];
    int[] descriptor = new int[size];
    Texts.Builder[] texts = new Texts.Builder[4];
    Arrays.setAll(texts, i -> Texts.builder(size));
    Map<Integer, List<String>> history = new HashMap<>();
    Map<String, Integer> places = new HashMap<>();
    BitSet guarded = new BitSet();
    int[] open = new int[size + 1];
    int depth = 0;
    for (int at = 0; at < size; at++) {
      Row row = rows.get(order[at]);
      String key = keys[order[at]];
      while (depth > 0 && !isBelow(key, keys[order[open[depth - 1]]])) {
        end[open[--depth]] = at;
      }
      parent[at] = depth == 0 ? -1 : open[depth - 1];
      open[depth++] = at;
      kind[at] = classes.getOrDefault(row.objectClass, 0);
      descriptor[at] =
          row.descriptor.map(d -> descriptors.getOrDefault(d, -1)).orElse(DirectoryTree.UNREADABLE);
      texts[0].add(row.dn);
      texts[1].add(row.dnForm);
      texts[2].add(row.sid);
      texts[3].add(row.label);
      if (!row.history.isEmpty()) {
        history.put(at, List.copyOf(row.history));
      }
      guarded.set(at, row.guarded);
      places.put(row.dnForm, at);
    }
    while (depth > 0) {
      end[open[--depth]] = size;
    }
    Map<String, List<Integer>> listing = new HashMap<>();
    foreign.forEach(
        (sid, groups) ->
            listing.put(
                sid, groups.stream().map(places::get).filter(java.util.Objects::nonNull).toList()));
    return new DirectoryTree(
        directory,
        names,
        new TreeArrays(
            texts[0].build(),
            texts[1].build(),
            parent,
            end,
            kind,
            classNames.stream().map(joined -> deepest(names, joined)).toList(),
            descriptor,
            List.copyOf(distinct),
            texts[2].build(),
            texts[3].build(),
            history,
            listing,
            guarded,
            implicitEverywhere));
  }

  /** Of the classes of an entry, joined by bars, the one with most classes above it. */
  private static String deepest(DsNames names, String joined) {
    String best = "";
    int most = -1;
    for (String name : joined.split("\\|")) {
      int depth = 0;
      String at = name;
      while (names.objectClass(at).isPresent() && depth < 64) {
        String above = names.objectClass(at).get().above();
        depth++;
        at = above.equalsIgnoreCase(at) ? "" : above;
      }
      if (depth >= most) {
        most = depth;
        best = names.objectClass(name).map(DsNames.ObjectClass::name).orElse(name);
      }
    }
    return best;
  }

  private static boolean isBelow(String key, String above) {
    return key.length() > above.length() && key.startsWith(above);
  }

  /** The parts of a canonical DN from the top down, each ended by a character below all others. */
  private static String turned(String dnForm) {
    StringBuilder out = new StringBuilder(dnForm.length() + 8);
    int end = dnForm.length();
    for (int i = dnForm.length() - 1; i >= -1; i--) {
      boolean comma = i >= 0 && dnForm.charAt(i) == ',' && !isEscaped(dnForm, i);
      if (i < 0 || comma) {
        out.append(dnForm, i + 1, end).append('\u0001');
        end = i;
      }
    }
    return out.toString();
  }

  private static boolean isEscaped(String text, int at) {
    int slashes = 0;
    for (int i = at - 1; i >= 0 && text.charAt(i) == '\\'; i--) {
      slashes++;
    }
    return slashes % 2 == 1;
  }
}
