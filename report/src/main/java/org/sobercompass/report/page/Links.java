package org.sobercompass.report.page;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.sobercompass.core.access.Words;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.report.page.PageTable.Cell;
import org.sobercompass.report.page.PageTable.Part;

/**
 * Makes links of the accounts and groups that a page names: each leads to its own line further
 * down. A name that fits two is left without a link. Not thread-safe.
 */
final class Links {
  /** So many accounts and groups have a line of their own in a page. */
  static final int MOST = 1_000;

  private static final int AMBIGUOUS = -2;

  private final Facts facts;
  private final Map<String, Integer> titles = new HashMap<>();
  private final Map<String, Integer> logins = new HashMap<>();
  private final Set<Integer> named = new LinkedHashSet<>();

  Links(Facts facts) {
    this.facts = facts;
    for (int s = 0; s < facts.subjects(); s++) {
      SubjectKind kind = facts.kind(s);
      if (kind == SubjectKind.ACCOUNT || kind == SubjectKind.GROUP) {
        titles.merge(Words.subject(facts, s), s, (one, other) -> AMBIGUOUS);
        if (kind == SubjectKind.ACCOUNT && !facts.login(s).isEmpty()) {
          logins.merge(facts.login(s), s, (one, other) -> AMBIGUOUS);
        }
      }
    }
  }

  /** The id of a subject's own line. */
  static String id(int subject) {
    return "s" + subject;
  }

  /** Those that have been linked to, in the order in which they were first named. */
  List<Integer> named() {
    return List.copyOf(named);
  }

  /** A text that may name a subject. */
  Part part(String text) {
    return part(titles, text);
  }

  /** A subject by its name. */
  Part part(int subject) {
    return new Part(Words.subject(facts, subject), to(subject));
  }

  private Part part(Map<String, Integer> known, String text) {
    int subject = known.getOrDefault(text, AMBIGUOUS);
    return new Part(text, subject == AMBIGUOUS ? "" : to(subject));
  }

  private String to(int subject) {
    if (named.size() < MOST) {
      named.add(subject);
    }
    return named.contains(subject) ? id(subject) : "";
  }

  /** A value of an answer. */
  Cell cell(String column, Object value) {
    if (value instanceof List<?> list) {
      List<Part> parts = new ArrayList<>();
      list.forEach(one -> parts.add(part(String.valueOf(one))));
      return new Cell(parts, false);
    }
    if (value instanceof Number) {
      return new Cell(List.of(new Part(value.toString(), "")), true);
    }
    String text = value instanceof Boolean yes ? (yes ? "yes" : "no") : String.valueOf(value);
    return new Cell(List.of(column.equals("login") ? part(logins, text) : part(text)), false);
  }
}
