package org.sobercompass.report.page;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.access.Words;
import org.sobercompass.core.audit.Triage;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.core.findings.Weight;
import org.sobercompass.core.problem.Gap;
import org.sobercompass.report.answers.AnswerContext;
import org.sobercompass.report.answers.ListAnswers;
import org.sobercompass.report.answers.ReachAnswers;
import org.sobercompass.report.data.AnswerTable;
import org.sobercompass.report.page.Section.Picture;

/** The page of the whole organization: an overview first, then what is wrong, then who has what. */
final class OrganizationSections {
  private static final int PLACES = 400;

  /** So many characters of names are kept for searching: 100,000 accounts in a small page. */
  private static final int NAMES = 2_500_000;

  private final PageContext context;

  OrganizationSections(PageContext context) {
    this.context = context;
  }

  PageContext.Draft all() {
    List<Section> sections = new ArrayList<>();
    sections.add(new Overview(context).section());
    sections.add(
        Section.of("findings", "Findings")
            .saying(context.sorted().open().isEmpty() ? List.of() : List.of(ThingSections.HOW))
            .with(context.findings().of(context.sorted(), PageContext.FINDINGS)));
    powers().ifPresent(sections::add);
    sections.add(roles());
    List<PageTable> trees = trees();
    if (!trees.isEmpty()) {
      sections.add(Section.of("places", "What is set where, in files and databases").with(trees));
    }
    if (context.facts().accounts() > Links.MOST) {
      sections.add(
          Section.of("others", "Accounts that are not shown above")
              .saying(
                  List.of(
                      "The search finds them too; sober report FILE account NAME makes the page of"
                          + " one."))
              .with(names()));
    }
    return new PageContext.Draft(List.of(lead()), sections);
  }

  private String lead() {
    Triage sorted = context.sorted();
    List<Finding> open = sorted.open();
    long high = open.stream().filter(f -> f.weight() == Weight.HIGH).count();
    boolean partly = context.assessment().gaps().stream().anyMatch(Gap::isMendable);
    String found =
        open.isEmpty()
            ? "nothing was found that should not be" + (partly ? " in what was read." : ".")
            : AnswerContext.count(open.size(), "thing was found", "things were found")
                + " that should not be, "
                + high
                + " of them of high weight"
                + (sorted.waived().isEmpty()
                    ? "."
                    : "; " + sorted.waived().size() + " more accepted.");
    return AnswerContext.count(context.facts().accounts(), "account", "accounts")
        + " and "
        + AnswerContext.count(context.facts().groups(), "group", "groups")
        + ", seen by "
        + AnswerContext.count(context.model().systems().size(), "application", "applications")
        + ": "
        + found;
  }

  private Section roles() {
    Section section = Section.of("roles", "Who is given which role");
    if (!Matrix.fits(context.model())) {
      return section.saying(
          List.of(
              "There are too many roles to stand side by side; sober report FILE application NAME"
                  + " makes the page of one application, with its accounts by roles."));
    }
    return section
        .saying(
            List.of(
                "● everywhere in the application · ◐ in a part of it · ○ ◌ the same, but the"
                    + " account is blocked. Point at a mark to see where."))
        .with(Matrix.of(context.model()));
  }

  /** Who could come to which power; nothing where nobody could. */
  private Optional<Section> powers() {
    ReachAnswers answers = new ReachAnswers(context.ask(), context.assessment().powers());
    List<Picture> pictures = new ArrayList<>();
    for (String id : answers.ids()) {
      String svg = answers.drawing(id);
      if (!svg.isEmpty()) {
        pictures.add(new Picture("Chains that lead to " + id + ".", svg));
      }
    }
    AnswerTable all = answers.all();
    PageTable table = PageTable.of("powers", all, PageContext.ROWS, "sober reach", context.links());
    return Optional.of(
            Section.of("reach", "Who could come to power by rights that lead to rights")
                .drawn(pictures)
                .with(List.of(table)))
        .filter(section -> !all.rows().isEmpty());
  }

  private List<PageTable> trees() {
    List<PageTable> tables = new ArrayList<>();
    ListAnswers answers = new ListAnswers(context.ask());
    for (SystemView view : context.model().systems()) {
      if (view.system().isOfLists()) {
        String command = "sober show tree " + view.id();
        tables.add(
            PageTable.of(
                view.id(),
                answers.tree(view, 0, Integer.MAX_VALUE, PLACES),
                PLACES,
                command,
                context.links()));
      }
    }
    return tables;
  }

  private NameList names() {
    List<String> lines = new ArrayList<>();
    int room = NAMES;
    int accounts = context.facts().accounts();
    int account = 0;
    for (; account < accounts && room > 0; account++) {
      String line = Words.subject(context.facts(), account);
      lines.add(line);
      room -= line.length() + 1;
    }
    return new NameList(lines, accounts - account);
  }
}
