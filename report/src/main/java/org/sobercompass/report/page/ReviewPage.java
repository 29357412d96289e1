package org.sobercompass.report.page;

import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import org.sobercompass.report.answers.ReviewAnswers;
import org.sobercompass.report.data.AnswerTable;

/**
 * A sheet of a review as a page to fill in and save; what is saved is the sheet as CSV.
 *
 * @param title its name, which the saved file gets too
 * @param name who is asked
 * @param lead what there is to do, in a sentence
 * @param facts what it was made of
 * @param all its lines
 */
public record ReviewPage(
    String title, String name, String lead, List<String> facts, List<Line> all) {
  /** Copies. */
  public ReviewPage {
    facts = List.copyOf(facts);
    all = List.copyOf(all);
  }

  /** One line to confirm. */
  public record Line(
      String row,
      String as,
      String who,
      String has,
      String where,
      String because,
      String unusual,
      String recommended,
      String check) {
    /** How the recommendation is set. */
    public String style() {
      return recommended.equals("keep")
          ? ""
          : recommended.startsWith("look") ? "advice-look" : "advice-take";
    }
  }

  /**
   * A page of a sheet.
   *
   * @param login of who is asked, for the name of the file
   */
  public static ReviewPage of(String name, String login, AnswerTable sheet) {
    List<Line> lines = new ArrayList<>();
    int check = ReviewAnswers.SAID.size();
    for (List<Object> row : sheet.rows()) {
      List<String> v = row.stream().map(String::valueOf).toList();
      lines.add(
          new Line(
              v.get(0),
              v.get(1),
              v.get(2),
              v.get(3),
              v.get(4),
              v.get(5),
              v.get(6),
              v.get(7),
              v.get(check)));
    }
    List<String> facts = new ArrayList<>();
    sheet.facts().forEach((fact, value) -> facts.add(fact + " " + value));
    return new ReviewPage("Review " + login, name, sheet.heading(), facts, lines);
  }

  /** As what somebody answers, in the order of the lines. */
  public List<String> capacities() {
    return List.copyOf(new LinkedHashSet<>(all.stream().map(Line::as).toList()));
  }

  /** The lines that somebody answers for as something. */
  public List<Line> lines(String as) {
    return all.stream().filter(line -> line.as().equals(as)).toList();
  }

  /** The page as text. */
  public String html() {
    return Pages.render("review.jte", Map.of("page", this));
  }
}
