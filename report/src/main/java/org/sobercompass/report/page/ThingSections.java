package org.sobercompass.report.page;

import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.function.Predicate;
import java.util.stream.Collectors;
import org.sobercompass.core.audit.Concerning;
import org.sobercompass.core.audit.Triage;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.report.data.AnswerTable;

/**
 * The sections of a page about some things: each thing's own, then the findings that concern any of
 * them. Not thread-safe.
 */
final class ThingSections {
  /** How findings are read. */
  static final String HOW =
      "Open a line to see why, what it rests on, and the least that would end it.";

  private final PageContext context;
  private final SubjectSections subjects;
  private final SystemSections systems;
  private final List<String> titles = new ArrayList<>();
  private final List<String> leads = new ArrayList<>();
  private final List<Section> sections = new ArrayList<>();
  private final List<Predicate<Finding>> concerned = new ArrayList<>();

  ThingSections(PageContext context) {
    this.context = context;
    this.subjects = new SubjectSections(context);
    this.systems = new SystemSections(context);
  }

  /**
   * What the page says of one thing.
   *
   * @param title what the thing is called
   * @param lead the answer in a sentence or two
   */
  record Part(String title, String lead, List<Section> sections) {}

  /** What a page is called that is about all of them. */
  String title() {
    return String.join(", ", titles);
  }

  void add(Thing thing) {
    Part part = part(thing);
    titles.add(part.title);
    leads.add(part.lead);
    int number = titles.size();
    for (Section section : part.sections) {
      sections.add(
          new Section(
              "t" + number + "-" + section.id(),
              section.title(),
              section.words(),
              section.pictures(),
              section.findings(),
              section.tables(),
              section.matrix(),
              section.index()));
    }
    concerns(thing).ifPresent(concerned::add);
  }

  private Part part(Thing thing) {
    if (thing instanceof Thing.Account one) {
      return subjects.account(one.account());
    } else if (thing instanceof Thing.Group one) {
      return subjects.group(one.group());
    } else if (thing instanceof Thing.Unit one) {
      return subjects.unit(one.unit());
    } else if (thing instanceof Thing.Scope one) {
      return subjects.scope(one.scope());
    } else if (thing instanceof Thing.Application one) {
      return systems.application(one.view());
    } else if (thing instanceof Thing.Role one) {
      return systems.role(one.view(), one.role());
    } else if (thing instanceof Thing.Permission one) {
      return systems.permission(one.view(), one.right(), one.node());
    } else if (thing instanceof Thing.Place one) {
      return systems.place(one.view(), one.node());
    }
    return answered((Thing.Answered) thing);
  }

  private Part answered(Thing.Answered thing) {
    List<Section> own = new ArrayList<>();
    int number = 0;
    for (AnswerTable part : thing.parts()) {
      number++;
      String title = number == 1 ? thing.title() : part.heading().replaceFirst("[:.]$", "");
      PageTable table =
          PageTable.of("part-" + number, part, PageContext.ROWS, thing.command(), context.links());
      own.add(
          Section.of("part-" + number, title)
              .saying(part.notes())
              .drawn(number == 1 ? thing.pictures() : List.of())
              .with(List.of(number == 1 ? table : table.unnamed())));
    }
    return new Part(thing.title(), thing.parts().get(0).heading(), own);
  }

  private Optional<Predicate<Finding>> concerns(Thing thing) {
    Concerning concerning = context.concerning();
    Set<Integer> about = new LinkedHashSet<>();
    if (thing instanceof Thing.Account one) {
      about.addAll(subjects.person(one.account()));
    } else if (thing instanceof Thing.Group one) {
      about.add(one.group());
    } else if (thing instanceof Thing.Unit one) {
      about.addAll(subjects.below(one.unit()));
    } else if (thing instanceof Thing.Scope one) {
      String id = context.assessment().powers().roles().scopes().all().get(one.scope()).id();
      return Optional.of(finding -> Concerning.scope(finding, id));
    } else if (thing instanceof Thing.Application one) {
      return Optional.of(
          finding -> context.findings().applications(finding).contains(one.view().id()));
    } else if (thing instanceof Thing.Role one) {
      return Optional.of(finding -> concerning.role(finding, one.view(), one.role()));
    } else if (thing instanceof Thing.Permission one) {
      return Optional.of(finding -> concerning.right(finding, one.view(), one.right()));
    } else if (thing instanceof Thing.Place one) {
      return Optional.of(finding -> concerning.place(finding, one.view(), one.node()));
    } else {
      return Optional.empty();
    }
    Set<String> keys =
        about.stream().map(s -> context.facts().key(s).text()).collect(Collectors.toSet());
    return Optional.of(finding -> Concerning.subjects(finding, keys));
  }

  /** All sections; the findings stand right after the sentence that sums them up. */
  PageContext.Draft all() {
    List<Section> all = new ArrayList<>();
    if (!concerned.isEmpty()) {
      Triage only = context.only(finding -> concerned.stream().anyMatch(one -> one.test(finding)));
      all.add(
          Section.of("findings", "What is wrong and needs a decision")
              .saying(
                  only.open().isEmpty()
                      ? List.of("No finding concerns what this page is about.")
                      : List.of(HOW))
              .with(context.findings().of(only, PageContext.FINDINGS)));
      leads.add(sum(only));
    }
    all.addAll(sections);
    return new PageContext.Draft(leads.size() <= 2 ? List.of(String.join(" ", leads)) : leads, all);
  }

  private static String sum(Triage only) {
    int open = only.open().size();
    return open == 0
        ? "No finding concerns this."
        : (open == 1 ? "1 finding needs" : open + " findings need")
            + " a decision: "
            + PageContext.byWeight(only.open())
            + ".";
  }
}
