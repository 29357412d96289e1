package org.sobercompass.core.facts;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.BitSet;
import java.util.Comparator;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.function.UnaryOperator;
import java.util.stream.IntStream;
import org.sobercompass.core.store.IntList;
import org.sobercompass.core.store.Texts;

/** Resolves references into membership edges and freezes them both ways. */
final class FactsEdges {
  private static final int MISSING = -1;
  private static final String FOREIGN = "cn=s-";
  private static final String FOREIGN_DOMAIN = "cn=s-1-5-21-";

  private final FactsOrder order;
  private final UnaryOperator<String> dnForm;
  private final IntList members = new IntList(1024);
  private final IntList groups = new IntList(1024);
  private final IntList vias = new IntList(1024);
  private final List<Dangling> dangling = new ArrayList<>();

  /** Groups that list somebody below an entry that was not read: a group with anybody, perhaps. */
  final Map<Integer, Via> elsewhere = new TreeMap<>();

  private final Set<String> parents = new HashSet<>();
  private final int[] container;

  FactsEdges(FactsOrder order, UnaryOperator<String> dnForm) {
    this.order = order;
    this.dnForm = dnForm;
    this.container = new int[order.subjects()];
    Arrays.fill(container, -1);
  }

  /** Resolves all references of one source: in itself first, then in the others, by name. */
  void resolve(FactsSource source, List<FactsSource> all) {
    containers(source);
    FactsReferences.All references = source.references.all();
    Texts spellings = references.spellings().freeze();
    int[] target = new int[spellings.size()];
    BitSet unread = new BitSet();
    IntStream.range(0, target.length)
        .parallel()
        .forEach(i -> target[i] = target(spellings.get(i), source, all));
    for (int i = 0; i < target.length; i++) {
      unread.set(i, target[i] < 0 && isElsewhere(spellings.get(i), target[i], all));
    }
    for (int i = 0; i < references.from().size(); i++) {
      int from = order.number(references.from().get(i));
      int spelling = references.to().get(i);
      Via via = Via.of(references.via().get(i));
      if (unread.get(spelling)) {
        elsewhere.put(from, via);
      }
      if (target[spelling] == MISSING) {
        dangling.add(new Dangling(from, via, spellings.get(spelling).substring(1)));
      } else if (target[spelling] >= 0) {
        int to = order.number(target[spelling]);
        members.add(via == Via.PRIMARY ? from : to);
        groups.add(via == Via.PRIMARY ? to : from);
        vias.add(via.ordinal());
      }
    }
  }

  /**
   * Whether somebody who was not found may be somewhere. Every entry has one above it (RFC 4512
   * section 2.1), so that what is missing below an entry that was read is gone, and what is missing
   * elsewhere may be there. A name made of a SID stands for somebody of another domain ([MS-ADTS]
   * 6.1.1.4.10), or for a well-known group, which is counted elsewhere. O(subjects) once.
   */
  private boolean isElsewhere(String spelled, int found, List<FactsSource> all) {
    if (spelled.charAt(0) != FactsSource.prefix(FactsBuilder.Space.DN)) {
      return false;
    }
    String form = dnForm.apply(spelled.substring(1));
    int comma = separator(form, 0);
    if (comma < 0 || found != MISSING || form.startsWith(FOREIGN)) {
      return form.startsWith(FOREIGN_DOMAIN);
    }
    String parent = form.substring(comma + 1);
    String wanted = FactsSource.prefix(FactsBuilder.Space.DN) + parent;
    if (all.stream().anyMatch(source -> source.find(wanted) != MISSING)) {
      return false;
    }
    if (parents.isEmpty()) {
      for (SubjectRow row : order.builder.rows) {
        int end = separator(row.dnForm(), 0);
        if (end >= 0) {
          parents.add(row.dnForm().substring(end + 1));
        }
      }
    }
    return !parents.contains(parent);
  }

  /** Adds an edge between final numbers. */
  void add(int member, int group, Via via) {
    members.add(member);
    groups.add(group);
    vias.add(via.ordinal());
  }

  private int target(String spelled, FactsSource own, List<FactsSource> all) {
    boolean isDn = spelled.charAt(0) == FactsSource.prefix(FactsBuilder.Space.DN);
    String wanted = isDn ? spelled.charAt(0) + dnForm.apply(spelled.substring(1)) : spelled;
    if (spelled.charAt(0) == FactsSource.prefix(FactsBuilder.Space.OTHER)) {
      return elsewhere(spelled.substring(1), all);
    }
    int found = own.find(wanted);
    for (int i = 0; i < all.size() && found == MISSING && isDn; i++) {
      found = all.get(i).find(wanted);
    }
    return found < 0 && isDn ? foreign(wanted, found, all) : found;
  }

  private static int elsewhere(String text, List<FactsSource> all) {
    int slash = text.indexOf('/');
    for (FactsSource source : all) {
      if (source.name.equals(text.substring(0, slash))) {
        return source.find(
            FactsSource.prefix(FactsBuilder.Space.LOGIN) + text.substring(slash + 1));
      }
    }
    return MISSING;
  }

  /**
   * A trustee of another directory stands in groups under a name made of its SID ([MS-ADTS]
   * 6.1.1.4.10): the subject with that SID, in whatever directory it is.
   */
  private static int foreign(String wanted, int found, List<FactsSource> all) {
    int comma = separator(wanted, 0);
    boolean bySid = wanted.startsWith(FOREIGN, 1) && comma > 0;
    int result = found;
    for (int i = 0; i < all.size() && result < 0 && bySid; i++) {
      String sid = "S-" + wanted.substring(1 + FOREIGN.length(), comma);
      int other = all.get(i).find(FactsSource.prefix(FactsBuilder.Space.SID) + sid);
      result = other >= 0 ? other : result;
    }
    return result;
  }

  /** The nearest unit above each subject of a source, by its canonical DN. */
  private void containers(FactsSource source) {
    List<SubjectRow> rows = order.builder.rows;
    for (int row = 0; row < rows.size(); row++) {
      if (order.builder.rowSource.get(row) == source.number) {
        container[order.number(row)] = container(source, rows.get(row).dnForm());
      }
    }
  }

  private int container(FactsSource source, String form) {
    int comma = separator(form, 0);
    while (comma >= 0) {
      int found =
          source.find(FactsSource.prefix(FactsBuilder.Space.DN) + form.substring(comma + 1));
      if (found >= 0 && order.builder.rows.get(found).kind() == SubjectKind.UNIT) {
        return order.number(found);
      }
      comma = separator(form, comma + 1);
    }
    return -1;
  }

  /** The next comma that is not escaped (RFC 4514 section 2.4). */
  private static int separator(String form, int from) {
    for (int i = from; i < form.length(); i++) {
      char c = form.charAt(i);
      if (c == '\\') {
        i++;
      } else if (c == ',') {
        return i;
      }
    }
    return -1;
  }

  /** Sorts the edges into rows, each row ascending and without repeats of the same kind. */
  MembershipRows freeze() {
    return new EdgeRows(order.subjects(), members, groups, vias).rows();
  }

  int[] containers() {
    return container;
  }

  List<Dangling> dangling() {
    dangling.sort(
        Comparator.comparingInt(Dangling::subject)
            .thenComparing(Dangling::via)
            .thenComparing(Dangling::text));
    return List.copyOf(dangling);
  }
}
