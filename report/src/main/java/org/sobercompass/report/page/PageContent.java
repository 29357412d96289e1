package org.sobercompass.report.page;

import java.util.List;

/**
 * What one page says, before it is HTML: the answer in sentences, what it was computed with, then
 * its sections in the order in which they are read.
 *
 * @param title the name of the page, for the window of the browser
 * @param answers the answer: a sentence or two on each thing that the page is about
 * @param facts what it was computed with: as of, basis, what was not read
 * @param sections pictures, findings and tables
 * @param problems what is wrong with the input and may change the answer
 */
public record PageContent(
    String title,
    List<String> answers,
    List<String> facts,
    List<Section> sections,
    List<String> problems) {
  /** Copies. */
  public PageContent {
    answers = List.copyOf(answers);
    facts = List.copyOf(facts);
    sections = List.copyOf(sections);
    problems = List.copyOf(problems);
  }

  /** What stands largest: the answer where there is one, else what the page is about. */
  public String head() {
    return answers.size() == 1 ? answers.get(0) : title;
  }

  /** What stands below it. */
  public List<String> below() {
    return answers.size() == 1 ? List.of() : answers;
  }
}
