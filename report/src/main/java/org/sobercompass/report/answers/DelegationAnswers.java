package org.sobercompass.report.answers;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Predicate;
import org.sobercompass.core.access.Words;
import org.sobercompass.core.admin.Powers;
import org.sobercompass.core.delegation.Delegation;
import org.sobercompass.core.delegation.Delegations;
import org.sobercompass.core.delegation.DirectoryTree;
import org.sobercompass.core.delegation.DirectoryTrees;
import org.sobercompass.core.delegation.Origin;
import org.sobercompass.core.delegation.Origins;
import org.sobercompass.core.delegation.TrusteeKind;
import org.sobercompass.core.delegation.TrusteeNames;
import org.sobercompass.core.descriptor.Descriptor;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.report.data.AnswerTable;

/** Delegations as rows: who was given what on which object of a directory. Not thread-safe. */
public final class DelegationAnswers {
  /** What the marks of the tree mean. */
  public static final String LEGEND =
      "+ delegated · - denied · ! marked as inherited without a source · | inheritance blocked"
          + " · ? not read";

  private static final int FEW = 6;

  private final AnswerContext ask;
  private final Powers powers;
  private final TrusteeNames trustees;
  private final Map<DirectoryTree, Delegations> delegations = new LinkedHashMap<>();
  private final Map<DirectoryTree, Origins> origins = new HashMap<>();
  private final java.util.function.Function<org.sobercompass.core.descriptor.Ace, String> text;

  /**
   * Answers about delegations.
   *
   * @param accepted the same directories when they were accepted, by name
   * @param text shows an entry as proof
   */
  public DelegationAnswers(
      AnswerContext ask,
      Powers powers,
      Map<String, DirectoryTree> accepted,
      java.util.function.Function<org.sobercompass.core.descriptor.Ace, String> text) {
    this.ask = ask;
    this.powers = powers;
    this.trustees = new TrusteeNames(powers.trees());
    this.text = text;
    for (DirectoryTree tree : powers.trees().all()) {
      Origins own = new Origins(tree, Optional.ofNullable(accepted.get(tree.directory())));
      origins.put(tree, own);
      delegations.put(tree, new Delegations(tree, own, powers.roles().administration().actions()));
    }
  }

  /**
   * What is asked for.
   *
   * @param at on this object and below; everywhere when empty
   * @param origins of these origins
   * @param also and whatever else is asked of a delegation
   * @param narrowed whether anything else is asked; then the lists themselves are not judged
   */
  public record Choice(
      Optional<DirectoryTrees.Spot> at,
      Set<Origin> origins,
      Predicate<Delegation> also,
      boolean narrowed) {}

  /** The delegations chosen, in the order of their objects. */
  public Map<DirectoryTree, List<Delegation>> find(Choice choice) {
    Map<DirectoryTree, List<Delegation>> found = new LinkedHashMap<>();
    delegations.forEach(
        (tree, lister) -> {
          boolean here = choice.at.map(spot -> spot.tree() == tree).orElse(true);
          if (here && tree.size() > 0) {
            List<Delegation> all = new ArrayList<>();
            int from = choice.at.map(DirectoryTrees.Spot::object).orElse(0);
            int to = choice.at.map(spot -> tree.end(spot.object())).orElse(tree.size());
            for (int object = from; object < to; object++) {
              lister.on(object, choice.origins).stream().filter(choice.also).forEach(all::add);
            }
            found.put(tree, all);
          }
        });
    return found;
  }

  /** In which order. */
  public enum Order {
    OBJECT,
    HOLDER,
    ACTION
  }

  /** The delegations chosen, one line each. */
  public AnswerTable list(Choice choice, Order order) {
    AnswerTable.Builder sheet =
        ask.begin(
            "delegations/1",
            "holder",
            "kind",
            "may",
            "on",
            "origin",
            "rights",
            "directory",
            "object",
            "trustee",
            "entries");
    Map<TrusteeKind, Integer> kinds = new java.util.EnumMap<>(TrusteeKind.class);
    List<Object[]> rows = new ArrayList<>();
    find(choice)
        .forEach(
            (tree, all) ->
                all.forEach(
                    d -> {
                      kinds.merge(kind(d.trustee()), 1, Integer::sum);
                      rows.add(row(tree, d));
                    }));
    if (order != Order.OBJECT) {
      int column = order == Order.HOLDER ? 0 : 2;
      rows.sort(Comparator.comparing(row -> row[column].toString()));
    }
    rows.forEach(sheet::row);
    sheet.heading(heading(sheet.size(), kinds));
    if (!choice.narrowed) {
      oddities(choice.at, sheet);
    }
    return (choice.at.isPresent() ? ask.whole() : ask).about(sheet, List.of());
  }

  private String heading(int delegations, Map<TrusteeKind, Integer> kinds) {
    List<String> counted = new ArrayList<>();
    kinds.forEach((kind, n) -> counted.add(n + " to " + kind.many()));
    return (powers.trees().all().isEmpty()
            ? "Undecided: no access rules of a directory were read; "
            : "")
        + AnswerContext.count(delegations, "delegation", "delegations")
        + (counted.isEmpty() ? "." : ": " + String.join(", ", counted) + ".");
  }

  private Object[] row(DirectoryTree tree, Delegation d) {
    return new Object[] {
      holder(d.trustee()),
      kind(d.trustee()).words(),
      d.may(),
      place(tree, d.object()),
      d.origin().words(),
      String.join("; ", d.rights()),
      tree.directory(),
      tree.dn(d.object()),
      d.trustee(),
      proof(tree, d)
    };
  }

  /** The same for a terminal: who, what, where; with each entry as it stands, if asked. */
  public AnswerTable brief(Choice choice, Order order, boolean proof) {
    AnswerTable full = list(choice, order);
    AnswerTable.Builder sheet =
        (proof
                ? AnswerTable.of("delegations-brief/1", "holder", "may", "on", "origin", "entries")
                : AnswerTable.of("delegations-brief/1", "holder", "may", "on", "origin"))
            .heading(full.heading());
    full.facts().forEach(sheet::fact);
    for (List<Object> row : full.rows()) {
      boolean plain = row.get(1).equals("group") || (row.get(0) + "").endsWith("(nobody)");
      String sort = plain ? "" : " [" + row.get(1) + "]";
      List<Object> told =
          new ArrayList<>(List.of(row.get(0) + sort, row.get(2), row.get(3), row.get(4)));
      if (proof) {
        told.add(row.get(9));
      }
      sheet.row(told.toArray());
    }
    full.notes().forEach(sheet::note);
    return sheet.build();
  }

  private String proof(DirectoryTree tree, Delegation d) {
    Descriptor descriptor = tree.descriptor(d.object()).orElseThrow();
    return String.join(
        "", d.entries().stream().map(i -> text.apply(descriptor.entries().get(i))).toList());
  }

  /** An object by its name, with its place when that says more. */
  static String place(DirectoryTree tree, int object) {
    return tree.label(object) + (tree.parent(object) < 0 ? " (the whole directory)" : "");
  }

  /** A trustee as people know it. */
  public String holder(String sid) {
    return trustees.name(sid);
  }

  /** What sort of holder it is. */
  public TrusteeKind kind(String sid) {
    return trustees.kind(sid);
  }

  /** Lists that are not as lists should be: order, blocked inheritance, owners. */
  private void oddities(Optional<DirectoryTrees.Spot> at, AnswerTable.Builder sheet) {
    for (DirectoryTree tree : delegations.keySet()) {
      List<String> order = new ArrayList<>();
      List<String> blocked = new ArrayList<>();
      int unreadable = 0;
      int from = at.filter(s -> s.tree() == tree).map(DirectoryTrees.Spot::object).orElse(0);
      int to = at.filter(s -> s.tree() == tree).map(s -> tree.end(s.object())).orElse(tree.size());
      for (int object = from; object < to; object++) {
        Optional<Descriptor> d = tree.descriptor(object);
        unreadable += d.isEmpty() ? 1 : 0;
        if (d.isPresent()) {
          boolean unit = tree.names().isA(tree.objectClass(object), "organizationalUnit");
          if (!d.get().isCanonical()) {
            order.add(tree.label(object));
          }
          if (unit && d.get().isProtected()) {
            blocked.add(tree.label(object));
          }
        }
      }
      note(sheet, "blocks inheritance", "block inheritance", blocked);
      note(sheet, "has a list out of order", "have lists out of order", order);
      if (unreadable > 0) {
        sheet.note(
            unreadable
                + " of "
                + (to - from)
                + " objects of "
                + tree.directory()
                + " have no list that could be read; what depends on them is undecided.");
      }
    }
    ownedByPersons(at, sheet);
  }

  private boolean isPerson(String sid) {
    return kind(sid) == TrusteeKind.PERSON;
  }

  private void ownedByPersons(Optional<DirectoryTrees.Spot> at, AnswerTable.Builder sheet) {
    for (DirectoryTree tree : delegations.keySet()) {
      List<String> owned = new ArrayList<>();
      int from = at.filter(s -> s.tree() == tree).map(DirectoryTrees.Spot::object).orElse(0);
      int to = at.filter(s -> s.tree() == tree).map(s -> tree.end(s.object())).orElse(tree.size());
      for (int object = from; object < to; object++) {
        String label = tree.label(object);
        tree.descriptor(object)
            .flatMap(Descriptor::owner)
            .filter(this::isPerson)
            .ifPresent(owner -> owned.add(label + " (" + holder(owner) + ")"));
      }
      note(sheet, "is owned by a person", "are owned by persons", owned);
    }
  }

  private static void note(AnswerTable.Builder sheet, String one, String many, List<String> names) {
    if (!names.isEmpty()) {
      sheet.note(
          String.join(", ", names.stream().limit(FEW).toList())
              + (names.size() > FEW ? " and " + (names.size() - FEW) + " more " : " ")
              + (names.size() == 1 ? one : many)
              + ".");
    }
  }

  /** The tree of organizational units with what was delegated on each. */
  public DelegationTree tree() {
    return new DelegationTree(delegations, this::holder);
  }

  /** Accounts as names, the first few. */
  String names(BitSet accounts, int most) {
    Facts facts = ask.model().facts();
    List<String> names = new ArrayList<>();
    accounts.stream().limit(most).forEach(a -> names.add(Words.subject(facts, a)));
    int more = accounts.cardinality() - names.size();
    return String.join(", ", names) + (more > 0 ? " and " + more + " more" : "");
  }
}
