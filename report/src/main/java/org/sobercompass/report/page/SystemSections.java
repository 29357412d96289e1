package org.sobercompass.report.page;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.stream.IntStream;
import org.sobercompass.core.access.RolesHeld;
import org.sobercompass.core.access.RouteFinder;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.access.Words;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.system.Limits;
import org.sobercompass.core.system.Question;
import org.sobercompass.report.answers.AnswerContext;
import org.sobercompass.report.answers.ListAnswers;
import org.sobercompass.report.answers.RightAnswers;
import org.sobercompass.report.answers.SubjectAnswers;
import org.sobercompass.report.data.AnswerTable;
import org.sobercompass.report.page.Section.Picture;
import org.sobercompass.report.page.ThingSections.Part;
import org.sobercompass.report.picture.LayerDrawing;
import org.sobercompass.report.picture.RouteDrawing;

/** Sections about an application, a role, a permission, a place. */
final class SystemSections {
  private static final int ROUTES = 60;
  private static final int LAYERS = 5;

  /** Of more accounts not everything they hold is worked out for a picture. */
  private static final int ACCOUNTS = 5_000;

  private final PageContext context;
  private final Facts facts;

  SystemSections(PageContext context) {
    this.context = context;
    this.facts = context.facts();
  }

  Part application(SystemView view) {
    String name = view.system().name();
    List<Integer> owners = context.owners().ofApplication(view.id());
    String owned =
        owners.isEmpty()
            ? "Nobody is named as its owner. "
            : "Its owner is "
                + String.join(", ", owners.stream().map(o -> Words.subject(facts, o)).toList())
                + ". ";
    if (view.system().isOfLists()) {
      Part whole = place(view, 0);
      return new Part(name, whole.lead() + " " + owned.strip(), whole.sections());
    }
    return new Part(name, roles(view) + " " + owned.strip(), ofRoles(view));
  }

  private String roles(SystemView view) {
    RolesHeld held = held(view);
    long direct =
        held.rows().stream()
            .filter(
                row ->
                    row.cells().stream()
                        .anyMatch(c -> c.map(x -> x.how() == RolesHeld.How.DIRECT).orElse(false)))
            .count();
    return AnswerContext.count(held.rows().size(), "account is", "accounts are")
        + " given roles of "
        + view.system().name()
        + ", "
        + (direct == 0 ? "none" : String.valueOf(direct))
        + " of them by name instead of through a group.";
  }

  private RolesHeld held(SystemView view) {
    return RolesHeld.of(context.model().asker(), view, accounts());
  }

  private List<Integer> accounts() {
    return IntStream.range(0, facts.accounts()).boxed().toList();
  }

  private List<Section> ofRoles(SystemView view) {
    SubjectAnswers answers = new SubjectAnswers(context.ask().whole());
    List<Section> sections = new ArrayList<>();
    String svg = context.drawings().matrix(view, accounts());
    if (!svg.isEmpty()) {
      sections.add(
          Section.of("matrix", "Who is given which role of " + view.system().name())
              .drawn(
                  List.of(
                      new Picture(
                          "Accounts with the same roles in the same way share a row; point at it to"
                              + " see all their names.",
                          svg))));
    }
    levels(view).ifPresent(sections::add);
    AnswerTable given = answers.node(view, 0);
    List<PageTable> tables = new ArrayList<>();
    tables.add(
        table(
            "assignments-" + view.id(),
            answers.assignments(view),
            "sober show assignments " + view.id()));
    tables.add(
        table("roles-" + view.id(), answers.roles(List.of(view)), "sober roles " + view.id()));
    sections.add(
        Section.of("given", "Assignments and roles of " + view.system().name())
            .saying(given.notes())
            .with(tables));
    return sections;
  }

  /** How far accounts get, where not too many have to be asked. */
  private Optional<Section> levels(SystemView view) {
    if (facts.accounts() > ACCOUNTS) {
      return Optional.empty();
    }
    String levels = context.drawings().levels(view, accounts());
    String groups = context.drawings().groups(view);
    List<Picture> pictures = new ArrayList<>();
    if (!levels.isEmpty()) {
      pictures.add(new Picture("The highest level that accounts hold in each area.", levels));
    }
    if (!groups.isEmpty()) {
      pictures.add(new Picture("Which groups bring which role.", groups));
    }
    return Optional.of(
            Section.of("levels", "How far accounts get in " + view.system().name()).drawn(pictures))
        .filter(section -> !section.pictures().isEmpty());
  }

  Part role(SystemView view, int role) {
    AnswerTable gives = new SubjectAnswers(context.ask().whole()).role(view, role);
    String name = view.system().roles().get(role).name();
    String id = view.id() + " " + view.system().roles().get(role).id();
    List<Integer> holders =
        held(view).rows().stream()
            .filter(row -> row.cells().get(role).isPresent())
            .map(RolesHeld.Row::account)
            .toList();
    String title = "the role " + name + " of " + view.system().name();
    List<Section> sections = new ArrayList<>();
    sections.add(
        Section.of("gives", "What " + title + " gives")
            .saying(gives.notes())
            .with(List.of(table("role", gives, "sober show role " + id))));
    String svg = context.drawings().matrix(view, holders);
    if (!svg.isEmpty()) {
      sections.add(
          Section.of("matrix", "Who has it, and what else they have there")
              .drawn(List.of(new Picture("Accounts with the same roles share a row.", svg))));
    }
    return new Part(
        title,
        gives.heading()
            + " "
            + AnswerContext.count(holders.size(), "account has", "accounts have")
            + " it.",
        sections);
  }

  Part permission(SystemView view, int right, int node) {
    RightAnswers answers = new RightAnswers(context.ask().whole());
    AnswerTable holders = answers.holdersBrief(view, right, node, false);
    String text = view.id() + ":" + view.rights().text(right);
    RouteDrawing drawing = new RouteDrawing(context.model());
    RouteFinder finder = new RouteFinder(context.model().asker(), Limits.ONE);
    List<Integer> accounts = answers.accounts(view, right, node);
    accounts.stream()
        .limit(ROUTES)
        .forEach(
            a -> finder.first(view, a, right, node).ifPresent(route -> drawing.add(view, route)));
    List<Picture> pictures = new ArrayList<>();
    String svg = drawing.draw();
    if (!svg.isEmpty()) {
      pictures.add(new Picture("How they come by it: a shortest route each.", svg));
    }
    String layers =
        LayerDrawing.draw(
            facts,
            view,
            text,
            LayerDrawing.columns(
                context.model().asker(),
                view,
                Question.of(node, right),
                accounts.stream().limit(LAYERS).toList()));
    if (!layers.isEmpty() && view.system().isOfLists()) {
      pictures.add(new Picture("Layer by layer, for the first " + LAYERS + ".", layers));
    }
    Section section =
        Section.of("holders", "Who can use " + text + ", and through what")
            .saying(holders.notes())
            .drawn(pictures)
            .with(List.of(table("holders", holders, "sober holders " + text)));
    return new Part(text, holders.heading(), List.of(section));
  }

  Part place(SystemView view, int node) {
    String name = view.resources().name(node);
    String title = view.system().name() + ", " + name;
    List<Section> sections = new ArrayList<>();
    if (!view.system().isOfLists()) {
      AnswerTable here = new SubjectAnswers(context.ask().whole()).node(view, node);
      AnswerTable who = new ListAnswers(context.ask().whole()).access(view, node, List.of(), false);
      sections.add(
          Section.of("who", "Who can do what at " + title)
              .with(List.of(table("who", who, "sober show access " + id(view, node)))));
      sections.add(
          Section.of("here", "Assignments that reach " + title)
              .saying(here.notes())
              .with(List.of(table("node", here, "sober show node " + id(view, node)))));
      return new Part(title, who.heading(), sections);
    }
    ListAnswers answers = new ListAnswers(context.ask().whole());
    AnswerTable access = answers.access(view, node, List.of(), true);
    String command = " " + view.id() + " " + view.resources().id(node);
    sections.add(
        Section.of("access", "Who has access to " + title)
            .saying(access.notes())
            .with(List.of(table("access", access, "sober show access" + command))));
    sections.add(
        Section.of("tree", "What is set at " + title + " and below")
            .drawn(List.of(Drawings.places(view, node)))
            .with(
                List.of(
                    table("list", answers.list(view, node), "sober show list" + command),
                    table(
                        "tree",
                        answers.tree(view, node, Integer.MAX_VALUE, PageContext.ROWS),
                        "sober show tree" + command))));
    return new Part(title, access.heading(), sections);
  }

  private static String id(SystemView view, int node) {
    return view.id() + " " + view.resources().id(node);
  }

  private PageTable table(String name, AnswerTable answer, String command) {
    return PageTable.of(name, answer, PageContext.ROWS, command, context.links());
  }
}
