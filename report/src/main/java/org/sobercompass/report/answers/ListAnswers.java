package org.sobercompass.report.answers;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.stream.Collectors;
import org.sobercompass.core.access.Asker;
import org.sobercompass.core.access.Holders;
import org.sobercompass.core.access.Holders.Holder;
import org.sobercompass.core.access.Route;
import org.sobercompass.core.access.RouteFinder;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.access.Words;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.system.Grant;
import org.sobercompass.core.system.Layer;
import org.sobercompass.core.system.Limits;
import org.sobercompass.core.system.ListLine;
import org.sobercompass.core.system.ListMark;
import org.sobercompass.core.system.Question;
import org.sobercompass.core.system.Resources;
import org.sobercompass.core.system.Standing;
import org.sobercompass.core.system.Verdict;
import org.sobercompass.report.data.AnswerTable;

/** Answers about resources with access control lists: files, tables. Not thread-safe. */
public final class ListAnswers {
  private final AnswerContext ask;
  private final Asker asker;
  private final Facts facts;

  /** Answers about the resources of a model. */
  public ListAnswers(AnswerContext ask) {
    this.ask = ask;
    this.asker = ask.model().asker();
    this.facts = ask.model().facts();
  }

  /** The entries of a resource, layer by layer, with where each comes from. */
  public AnswerTable list(SystemView view, int resource) {
    List<ListLine> lines = view.system().list(resource);
    AnswerTable.Builder sheet =
        ask.begin("list/1", "layer", "trustee", "effect", "rights", "reach", "origin", "from");
    int inherited = 0;
    int made = 0;
    for (ListLine line : lines) {
      boolean here = line.resource() == resource;
      inherited += line.origin() == ListLine.Origin.INHERITED ? 1 : 0;
      made += line.origin() == ListLine.Origin.DEFAULT ? 1 : 0;
      sheet.row(
          line.layer(),
          line.trustee(),
          line.effect(),
          line.rights(),
          line.reach(),
          line.origin().words(),
          here ? "" : view.resources().id(line.resource()));
    }
    int entries = lines.size() - made;
    sheet.heading(
        view.resources().name(resource)
            + ", "
            + view.system().what(resource)
            + ", has "
            + AnswerContext.count(entries, "entry", "entries")
            + (inherited > 0 ? ", " + inherited + " of them inherited from above" : "")
            + marks(view, resource)
            + ".");
    for (String line : view.system().made(resource)) {
      sheet.note("Made here, " + line + ".");
    }
    return ask.finish(sheet, view);
  }

  private static String marks(SystemView view, int resource) {
    List<String> words =
        view.system().marks(resource).stream()
            .filter(m -> m != ListMark.EXPLICIT && m != ListMark.INHERITED)
            .map(ListMark::words)
            .toList();
    return words.isEmpty() ? "" : " (" + String.join(", ", words) + ")";
  }

  /** What one account may do on one resource, and the rights it has. */
  private record Row(Holder first, List<Integer> rights) {
    int account() {
      return first.account();
    }

    int resource() {
      return first.resource();
    }
  }

  /**
   * Who may do what on a resource: by account, the largest rights only.
   *
   * @param only these accounts, side by side; none for all
   * @param below also what somebody may only somewhere below
   */
  public AnswerTable access(SystemView view, int resource, List<Integer> only, boolean below) {
    List<Row> ranked = rows(view, resource, only, below);
    AnswerTable.Builder sheet =
        ask.begin(
            "access/1", "account", "login", "name", "rights", "where", "state", "through", "from");
    RouteFinder finder = new RouteFinder(asker, Limits.ONE);
    for (Row row : ranked) {
      List<Integer> largest = largest(view, row.rights());
      List<Route> routes = finder.find(view, row.account(), largest.get(0), row.resource()).open();
      sheet.row(
          facts.key(row.account()).text(),
          facts.login(row.account()),
          facts.label(row.account()),
          largest.stream().map(view.rights()::text).collect(Collectors.joining(", "))
              + apart(view, row, largest),
          view.resources().id(row.resource()),
          row.first().state().word(),
          routes.isEmpty() ? "" : through(view, routes.get(0)),
          routes.isEmpty() ? "" : from(view, row.resource(), routes.get(0)));
    }
    nothing(view, resource, only, ranked, sheet);
    List<Row> here = ranked.stream().filter(row -> row.resource() == resource).toList();
    sheet.heading(heading(view, resource, here) + below(ranked, here));
    return ask.finish(sheet, view);
  }

  /** Who holds what, by place, then by the largest right. */
  private List<Row> rows(SystemView view, int resource, List<Integer> only, boolean below) {
    Map<List<Integer>, Row> rows = new LinkedHashMap<>();
    for (int right = 0; right < view.rights().size(); right++) {
      if (!view.rights().isMinor(right)) {
        for (Holder holder : new Holders(asker).find(view, right, resource, below)) {
          if (only.isEmpty() || only.contains(holder.account())) {
            rows.computeIfAbsent(
                    List.of(holder.resource(), holder.account()),
                    a -> new Row(holder, new ArrayList<>()))
                .rights()
                .add(right);
          }
        }
      }
    }
    List<Row> ranked = new ArrayList<>(rows.values());
    ranked.sort(
        Comparator.comparingInt(Row::resource)
            .thenComparingInt(row -> row.rights().get(0))
            .thenComparingInt(Row::account));
    return ranked;
  }

  /** Which of the rights the system does not give together, in words. */
  private String apart(SystemView view, Row row, List<Integer> rights) {
    List<String> pairs = new ArrayList<>();
    for (int i = 0; i < rights.size() && !view.decider().isAdditive(); i++) {
      for (int j = i + 1; j < rights.size(); j++) {
        Question both = new Question(row.resource(), new int[] {rights.get(i), rights.get(j)});
        if (asker.decide(view, row.account(), both) == Verdict.NO) {
          pairs.add(
              view.rights().text(rights.get(i)) + " with " + view.rights().text(rights.get(j)));
        }
      }
    }
    return pairs.isEmpty() ? "" : " (not together: " + String.join(", ", pairs) + ")";
  }

  /** Of those asked about by name, who may do nothing. */
  private void nothing(
      SystemView view,
      int resource,
      List<Integer> only,
      List<Row> rows,
      AnswerTable.Builder sheet) {
    for (int account : only) {
      if (rows.stream().noneMatch(row -> row.account() == account)) {
        sheet.row(
            facts.key(account).text(),
            facts.login(account),
            facts.label(account),
            "nothing",
            view.resources().id(resource),
            Standing.State.USABLE.word(),
            "",
            "");
      }
    }
  }

  private static String below(List<Row> all, List<Row> here) {
    int more = all.size() - here.size();
    return more == 0
        ? ""
        : " Below it " + AnswerContext.count(more, "place differs", "places differ") + ".";
  }

  private String heading(SystemView view, int resource, List<Row> rows) {
    Map<String, Integer> counts = new TreeMap<>();
    rows.forEach(
        row ->
            counts.merge(view.rights().text(largest(view, row.rights()).get(0)), 1, Integer::sum));
    String by =
        counts.entrySet().stream()
            .map(e -> e.getValue() + " " + e.getKey())
            .collect(Collectors.joining(", "));
    return AnswerContext.count(rows.size(), "account has access", "accounts have access")
        + " to "
        + view.resources().name(resource)
        + " of "
        + view.system().name()
        + (rows.isEmpty() || !hasGroups(view) ? "." : ": " + by + ".");
  }

  /** Whether some rights contain others, so that the largest says enough. */
  private static boolean hasGroups(SystemView view) {
    return !view.rights().contains(0).isEmpty();
  }

  /** The rights that no other of these contains. */
  private static List<Integer> largest(SystemView view, List<Integer> rights) {
    return rights.stream()
        .filter(
            right ->
                rights.stream().noneMatch(other -> view.rights().contains(other).contains(right)))
        .toList();
  }

  private String through(SystemView view, Route route) {
    Grant grant = view.grants().get(route.grant());
    return grant.subject() == route.account()
        ? "the account itself"
        : Words.subject(facts, grant.subject());
  }

  private static String from(SystemView view, int resource, Route route) {
    int at = view.grants().get(route.grant()).resource();
    return at == resource ? "here" : view.resources().id(at);
  }

  /** One right on one resource, layer by layer, for accounts side by side. */
  public AnswerTable layers(SystemView view, int right, int resource, List<Integer> accounts) {
    AnswerTable.Builder sheet =
        ask.begin("layers/1", "account", "login", "layer", "lets", "limits", "by");
    List<String> sentences = new ArrayList<>();
    for (int account : accounts) {
      List<Layer> layers =
          view.decider().layers(asker.token(view, account), Question.of(resource, right));
      boolean limited = false;
      String limit = "";
      for (Layer layer : layers) {
        boolean limits = !limited && layer.verdict() != Verdict.YES;
        limit = limits ? layer.name() : limit;
        limited |= limits;
        sheet.row(
            facts.key(account).text(),
            facts.login(account),
            layer.name(),
            layer.verdict() == Verdict.YES
                ? "+ lets through"
                : layer.verdict() == Verdict.NO ? "x stops" : "? undecided",
            limits ? "< here" : "",
            by(view, layer));
      }
      sentences.add(sentence(view, account, layers, limit));
    }
    sheet.heading(
        "For "
            + view.rights().text(right)
            + " on "
            + view.resources().name(resource)
            + ": "
            + String.join("; ", sentences)
            + ".");
    return ask.finish(sheet, view);
  }

  private String sentence(SystemView view, int account, List<Layer> layers, String limit) {
    String who = Words.subject(facts, account);
    boolean seen = view.memberships().visibility().sees(account);
    if (layers.isEmpty() || !seen) {
      return who + " is not seen by " + view.system().name();
    }
    return limit.isEmpty()
        ? who + " passes all " + AnswerContext.count(layers.size(), "layer", "layers")
        : who + " is stopped at " + limit;
  }

  private String by(SystemView view, Layer layer) {
    List<Integer> shown = layer.verdict() == Verdict.NO ? layer.stops() : layer.gives();
    List<Integer> all = shown.isEmpty() ? layer.gives() : shown;
    String less = layer.verdict() == Verdict.NO && layer.stops().isEmpty() ? "only " : "";
    String text =
        all.stream()
            .limit(3)
            .map(
                number -> {
                  Grant grant = view.grants().get(number);
                  String role = view.system().roles().get(grant.role()).name();
                  return less + role + " to " + Words.trustee(facts, grant);
                })
            .distinct()
            .collect(Collectors.joining("; "));
    String rest = all.size() > 3 ? "; and " + (all.size() - 3) + " more" : "";
    String note = layer.note().isEmpty() ? "" : (text.isEmpty() ? "" : "; ") + layer.note();
    return (text.isEmpty() && note.isEmpty() ? "nothing gives it" : text) + rest + note;
  }

  /** A tree of resources with marks for what is set, inherited and blocked where. */
  public AnswerTable tree(SystemView view, int top, int depth) {
    return tree(view, top, depth, Integer.MAX_VALUE);
  }

  /** The same with so many rows at most. */
  public AnswerTable tree(SystemView view, int top, int depth, int most) {
    Resources tree = view.resources();
    AnswerTable.Builder sheet = ask.begin("tree/1", "path", "what", "marks", "says", "entries");
    int explicit = 0;
    int blocked = 0;
    int shown = 0;
    for (int r = top; r < tree.end(top); r++) {
      boolean own = view.system().marks(r).contains(ListMark.EXPLICIT);
      explicit += own ? 1 : 0;
      blocked += view.system().marks(r).contains(ListMark.BLOCKED) ? 1 : 0;
      if (tree.depth(r) - tree.depth(top) <= depth && shown < most) {
        shown++;
        sheet.row(
            indented(tree, top, r),
            view.system().what(r),
            signs(view, r),
            says(view, r),
            own(view, r));
      }
    }
    sheet.heading(
        view.system().name()
            + ", "
            + tree.name(top)
            + ": "
            + AnswerContext.count(tree.end(top) - top, "resource", "resources")
            + ", "
            + explicit
            + " with entries of their own, "
            + blocked
            + " where inheritance is blocked.");
    sheet.note(
        "Marks: "
            + java.util.Arrays.stream(ListMark.values())
                .map(m -> m.sign() + " " + m.words())
                .collect(Collectors.joining(", "))
            + ".");
    if (shown < tree.end(top) - top) {
      sheet.note((tree.end(top) - top - shown) + " deeper ones are not shown; name a folder.");
    }
    return ask.finish(sheet, view);
  }

  private static String indented(Resources tree, int top, int resource) {
    if (resource == top) {
      return tree.id(resource);
    }
    String id = tree.id(resource);
    String name = id.substring(id.lastIndexOf('/') + 1);
    return "· ".repeat(tree.depth(resource) - tree.depth(top)) + name;
  }

  /** The marks of a resource, one character each. */
  public static String signs(SystemView view, int resource) {
    return view.system().marks(resource).stream().map(ListMark::sign).collect(Collectors.joining());
  }

  private static String says(SystemView view, int resource) {
    return view.system().marks(resource).stream()
        .map(ListMark::words)
        .collect(Collectors.joining(", "));
  }

  /** The entries written at a resource itself, in short, after what is unusual about them. */
  private static String own(SystemView view, int resource) {
    String unusual = marks(view, resource).strip();
    String entries = entries(view, resource);
    return unusual + (unusual.isEmpty() || entries.isEmpty() ? "" : " ") + entries;
  }

  /** The entries that stand at a resource by themselves, in short. */
  public static String entries(SystemView view, int resource) {
    return view.system().list(resource).stream()
        .filter(line -> line.resource() == resource && !line.layer().startsWith("share "))
        .filter(
            line ->
                line.origin() == ListLine.Origin.EXPLICIT
                    || line.origin() == ListLine.Origin.CLAIMED)
        .map(
            line ->
                line.trustee()
                    + (line.effect().equals("allow") ? ": " : " " + line.effect() + ": ")
                    + line.rights())
        .collect(Collectors.joining("; "));
  }
}
