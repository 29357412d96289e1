package org.sobercompass.core.facts;

import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import org.sobercompass.core.filter.Schema;
import org.sobercompass.core.store.IntList;
import org.sobercompass.core.store.TextTable;

/** The part of a {@link FactsBuilder} for one directory. Not thread-safe. */
public final class FactsSource {
  private final FactsBuilder builder;
  final String name;
  final int number;
  final TextTable names = new TextTable();
  final IntList nameRow = new IntList();
  final FactsReferences references = new FactsReferences();
  final Map<String, int[]> returned = new TreeMap<>();
  final List<Ruled> rules = new ArrayList<>();
  long taken = Facts.NEVER;
  Optional<Schema> schema = Optional.empty();
  String login = "";
  final Map<String, Integer> withheld = new TreeMap<>();
  int entries;

  FactsSource(FactsBuilder builder, String name) {
    this.builder = builder;
    this.name = name;
    this.number = builder.sources();
    for (String attribute : builder.attributes()) {
      returned.put(attribute, new int[1]);
    }
  }

  /** The attributes (lower case) whose values are kept. */
  public java.util.List<String> attributes() {
    return builder.attributes();
  }

  /** Says when the directory was exported (epoch second). */
  public void taken(long epochSecond) {
    taken = epochSecond;
  }

  /** Says which attribute types the directory knows; without it the usual ones are taken. */
  public void schema(Schema known) {
    schema = Optional.of(known);
  }

  /** Says which attribute (lower case) holds the login names. */
  public void loginAttribute(String attribute) {
    login = attribute;
  }

  /** Notes the name of a host that has an entry. */
  public void host(String hostName) {
    builder.hosts.add(hostName.toLowerCase(Locale.ROOT));
  }

  /** Says when the password of an account ends; the earliest counts. */
  public void passwordEnds(int row, long epochSecond) {
    builder.passwordEnds.merge(row, epochSecond, Math::min);
  }

  /** Says until when an account is locked. */
  public void lockedUntil(int row, long epochSecond) {
    builder.lockedUntil.put(row, epochSecond);
  }

  /** Sets a flag of a subject that was added before. */
  public void flag(int row, int flag) {
    builder.laterFlags.merge(row, flag, (a, b) -> a | b);
  }

  /** Says that a group has members which were not shown, listed in this way. */
  public void open(int row, Via via) {
    builder.open.put(row, via);
  }

  /** Says how many entries did not show an attribute that they must have. */
  public void withheld(String attribute, int count) {
    withheld.put(attribute, count);
  }

  /** Adds a subject; the number returned is good for this builder only. */
  public int add(SubjectRow row) {
    entries++;
    int added = builder.addRow(row, number);
    name(added, FactsBuilder.Space.DN, row.dnForm());
    return added;
  }

  /** Notes an entry that exists but is no subject. */
  public void addOther(String dnForm) {
    entries++;
    name(FactsBuilder.NO_SUBJECT, FactsBuilder.Space.DN, dnForm);
  }

  /** Whether another directory, read before this one, has an account with a login name. */
  public boolean isIn(String directory, String loginName) {
    return builder
        .named(directory)
        .filter(source -> source.find(prefix(FactsBuilder.Space.LOGIN) + loginName) >= 0)
        .isPresent();
  }

  /** Gives a subject a name that references may use; the first to bear a name keeps it. */
  public void name(int row, FactsBuilder.Space space, String text) {
    int number = names.intern(prefix(space) + text);
    if (number == nameRow.size()) {
      nameRow.add(row);
    }
  }

  /** Notes a rule that makes members of a group. */
  public void rule(int row, MemberRule rule) {
    rules.add(new Ruled(row, rule));
    rule.filter().collectAttributes(builder.asked);
  }

  /** A group with a rule. */
  record Ruled(int row, MemberRule rule) {}

  /** Keeps the values of an attribute, if it was asked for. */
  public void values(int row, String attribute, Iterable<String> values) {
    int[] count = returned.get(attribute);
    if (count == null) {
      return;
    }
    count[0]++;
    for (String value : values) {
      builder.addValue(row, attribute, value);
    }
  }

  /**
   * Notes a reference: {@code from} lists the named subject, or (for {@link Via#PRIMARY}) belongs
   * to it.
   */
  public void refer(int from, Via via, FactsBuilder.Space space, byte[] text) {
    references.add(from, via, prefix(space), text);
  }

  /** The same for a text. */
  public void refer(int from, Via via, FactsBuilder.Space space, String text) {
    refer(from, via, space, text.getBytes(StandardCharsets.UTF_8));
  }

  static char prefix(FactsBuilder.Space space) {
    return "dugsio".charAt(space.ordinal());
  }

  /** The subject of this source with this prefixed name: its row, NO_SUBJECT, or -1. */
  int find(String prefixed) {
    int number = names.find(prefixed);
    return number < 0 ? -1 : nameRow.get(number);
  }
}
