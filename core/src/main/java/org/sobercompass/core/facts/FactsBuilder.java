package org.sobercompass.core.facts;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.function.UnaryOperator;
import org.sobercompass.core.filter.Schema;
import org.sobercompass.core.key.Key;
import org.sobercompass.core.problem.Completeness;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.core.store.IntList;
import org.sobercompass.core.store.TextTable;
import org.sobercompass.core.store.Texts;

/**
 * Collects subjects and references of all directories in any order and freezes them. A reference
 * may come before what it names. Memory follows what is kept: each spelling of a name once. Not
 * thread-safe; {@link #build} once.
 */
public final class FactsBuilder {
  /** The spaces of names that references use. */
  public enum Space {
    DN,
    LOGIN,
    GID,
    SID,
    ID,
    /** A login name of another directory: {@code directory/login}. */
    OTHER
  }

  /**
   * Stands for an entry that exists but is no subject, so that a reference to it is not missing.
   */
  public static final int NO_SUBJECT = -2;

  private final Map<String, FactsSource> sources =
      new TreeMap<>(Comparator.comparing((String name) -> name + "/", Key::compareUtf8));
  private final List<String> attributes;
  private final Map<String, Draft> drafts = new HashMap<>();
  private final UnaryOperator<String> dnForm;
  private final Problems problems;

  final List<SubjectRow> rows = new ArrayList<>();
  final IntList rowSource = new IntList();
  final Set<String> asked = new TreeSet<>();
  final Set<String> hosts = new TreeSet<>();
  final Map<Integer, Long> passwordEnds = new HashMap<>();
  final Map<Integer, Long> lockedUntil = new HashMap<>();
  final Map<Integer, Via> open = new HashMap<>();
  final Map<Integer, Integer> laterFlags = new HashMap<>();
  private int firstExpected = Integer.MAX_VALUE;

  /** A column in the making: pairs of row and code. */
  private record Draft(TextTable dictionary, IntList rows, IntList codes) {}

  /**
   * A builder.
   *
   * @param attributes the attributes (lower case) whose values are kept
   * @param dnForm brings a DN into its canonical form; called once for each distinct spelling, on
   *     several threads
   * @param problems takes what is wrong
   */
  public FactsBuilder(
      Iterable<String> attributes, UnaryOperator<String> dnForm, Problems problems) {
    this.attributes = new ArrayList<>();
    this.dnForm = dnForm;
    this.problems = problems;
    for (String attribute : attributes) {
      this.attributes.add(attribute);
      drafts.put(attribute, new Draft(new TextTable(), new IntList(), new IntList()));
    }
  }

  /** The part of the builder for one directory, made on first use. */
  public FactsSource source(String name) {
    return sources.computeIfAbsent(name, n -> new FactsSource(this, n));
  }

  /** The attributes (lower case) whose values are kept. */
  public List<String> attributes() {
    return attributes;
  }

  /**
   * The attributes that rules ask for and that are not kept: when there are any, everything must be
   * read again with them, since a rule may stand after the entries it is about.
   */
  public Set<String> missing() {
    Set<String> missing = new TreeSet<>(asked);
    attributes.forEach(missing::remove);
    return missing;
  }

  /**
   * Says that what follows is not there yet: it is read as an export would have it, to see what it
   * would do. It gets numbers like the rest, and is absent.
   */
  public void expected() {
    firstExpected = rows.size();
  }

  int addRow(SubjectRow row, int source) {
    rows.add(row);
    rowSource.add(source);
    return rows.size() - 1;
  }

  void addValue(int row, String attribute, String value) {
    Draft draft = drafts.get(attribute);
    if (draft != null) {
      draft.rows.add(row);
      draft.codes.add(draft.dictionary.intern(value));
    }
  }

  /** Freezes everything. O(n log n) for the order of keys, O(memberships) for the rest. */
  public Facts build() {
    List<String> names = List.copyOf(sources.keySet());
    List<FactsSource> parts = List.copyOf(sources.values());
    int[] rank = new int[parts.size()];
    for (int i = 0; i < parts.size(); i++) {
      rank[parts.get(i).number] = i;
    }
    FactsOrder order = new FactsOrder(this, names, rank);
    order.duplicates(problems);
    FactsEdges edges = new FactsEdges(order, dnForm);
    for (FactsSource part : parts) {
      edges.resolve(part, parts);
    }
    Map<String, Column> columns = columns(order);
    FactsRules rules = new FactsRules(order, columns, problems);
    parts.forEach(part -> rules.apply(part, edges));
    Map<Integer, Via> open = new TreeMap<>(edges.elsewhere);
    this.open.forEach((row, via) -> open.put(order.number(row), via));
    byte[] openVia = new byte[open.size()];
    int next = 0;
    for (Via via : open.values()) {
      openVia[next++] = (byte) via.ordinal();
    }
    long[] taken = parts.stream().mapToLong(p -> p.taken).toArray();
    Texts[] texts = order.texts();
    return new Facts(
        new Facts.Arrays(
            names,
            taken,
            order.accounts,
            order.groups,
            order.units,
            order.source(),
            order.flags(),
            order.expires(),
            edges.containers(),
            texts[0],
            texts[1],
            texts[2],
            texts[3],
            texts[4],
            texts[5],
            edges.freeze(),
            edges.dangling(),
            columns,
            problems.list(),
            completeness(parts),
            schemas(parts),
            logins(parts),
            List.copyOf(hosts),
            open.keySet().stream().mapToInt(Integer::intValue).toArray(),
            openVia,
            order.times(passwordEnds),
            order.times(lockedUntil)),
        absent(order));
  }

  private BitSet absent(FactsOrder order) {
    BitSet absent = new BitSet();
    for (int row = firstExpected; row < rows.size(); row++) {
      absent.set(order.number(row));
    }
    return absent;
  }

  private Map<String, Column> columns(FactsOrder order) {
    Map<String, Column> columns = new TreeMap<>();
    drafts.forEach(
        (attribute, draft) ->
            columns.put(
                attribute,
                new Column(order.renumber(draft.rows, draft.codes), draft.dictionary.freeze())));
    return columns;
  }

  private static List<Completeness> completeness(List<FactsSource> parts) {
    List<Completeness> all = new ArrayList<>();
    for (FactsSource part : parts) {
      Set<String> attributes = new TreeSet<>(part.returned.keySet());
      attributes.addAll(part.withheld.keySet());
      for (String attribute : attributes) {
        int[] count = part.returned.getOrDefault(attribute, new int[1]);
        int withheld = part.withheld.getOrDefault(attribute, 0);
        all.add(new Completeness(part.name, attribute, part.entries, count[0], withheld));
      }
    }
    all.sort(Comparator.comparing(Completeness::source).thenComparing(Completeness::attribute));
    return all;
  }

  private static Map<String, String> logins(List<FactsSource> parts) {
    Map<String, String> logins = new TreeMap<>();
    parts.stream()
        .filter(part -> !part.login.isEmpty())
        .forEach(part -> logins.put(part.name, part.login));
    return logins;
  }

  private static Map<String, Schema> schemas(List<FactsSource> parts) {
    Map<String, Schema> schemas = new TreeMap<>();
    parts.forEach(part -> part.schema.ifPresent(schema -> schemas.put(part.name, schema)));
    return schemas;
  }

  Optional<FactsSource> named(String directory) {
    return Optional.ofNullable(sources.get(directory));
  }

  int sources() {
    return sources.size();
  }

  void duplicate(Key key, String dn) {
    problems.add(
        Problem.error(
            Place.of("").entry(dn),
            "the same entry stands twice (" + key + ")",
            "each entry once"));
  }
}
