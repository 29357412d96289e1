package org.sobercompass.report.answers;

import java.time.Instant;
import java.time.LocalTime;
import java.time.ZoneId;
import java.time.ZonedDateTime;
import java.time.format.DateTimeFormatter;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.stream.Collectors;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.access.Words;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.key.Key;
import org.sobercompass.core.problem.Completeness;
import org.sobercompass.core.problem.Gap;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.system.Basis;
import org.sobercompass.core.system.Standing;
import org.sobercompass.report.data.AnswerTable;

/**
 * What every answer is given with: the model, the zone to show times in, the problems of the input.
 *
 * @param model the model asked
 * @param zone in which times are shown
 * @param problems what is wrong with the input, but not so wrong that no answer can be given
 * @param gaps what was not read, where the answer depends on it
 */
public record AnswerContext(
    AccessModel model, ZoneId zone, List<Problem> problems, List<Gap> gaps) {
  /** With nothing that was not read. */
  public AnswerContext(AccessModel model, ZoneId zone, List<Problem> problems) {
    this(model, zone, problems, List.of());
  }

  private static final DateTimeFormatter TIME =
      DateTimeFormatter.ofPattern("yyyy-MM-dd HH:mm VV", Locale.ROOT);

  /**
   * The same for an answer that depends on nothing that was not read, or says itself where it does.
   */
  public AnswerContext whole() {
    return new AnswerContext(model, zone, problems);
  }

  /** The facts that stand under every heading: as of, basis. */
  public AnswerTable.Builder begin(String schema, String... columns) {
    return AnswerTable.of(schema, columns)
        .fact("as of", moment(model.asOf()))
        .fact("assignments", basis(model) + exported(model));
  }

  /** A moment, in the zone. */
  String moment(Instant at) {
    return TIME.format(at.atZone(zone));
  }

  /** Which actual assignments were exported when, where that is said. */
  private static String exported(AccessModel model) {
    String days =
        model.systems().stream()
            .filter(view -> view.basis() == Basis.ACTUAL)
            .flatMap(
                view ->
                    view.admission().terms().exported().map(day -> view.id() + " " + day).stream())
            .collect(Collectors.joining(", "));
    return days.isEmpty() ? "" : " (exported: " + days + ")";
  }

  /** Which grants are used: one word when all systems agree, else by system. */
  static String basis(AccessModel model) {
    List<Basis> used = model.systems().stream().map(SystemView::basis).distinct().toList();
    if (used.size() == 1) {
      return used.get(0).word();
    }
    return model.systems().stream()
        .map(view -> view.id() + " " + view.basis().word())
        .collect(Collectors.joining(", "));
  }

  /** Adds the problems of the input that could change an answer about all systems. */
  public AnswerTable finish(AnswerTable.Builder sheet) {
    return finish(sheet, problems);
  }

  /** The same for an answer about one system. */
  public AnswerTable finish(AnswerTable.Builder sheet, SystemView only) {
    return about(sheet, List.of(only));
  }

  /** The same for an answer about some systems: what stands in the files of others is left out. */
  public AnswerTable about(AnswerTable.Builder sheet, List<SystemView> views) {
    Set<String> others = new HashSet<>();
    for (SystemView view : model.systems()) {
      if (!views.contains(view)) {
        others.addAll(view.system().files());
        view.assigned().forEach(grant -> others.add(grant.place().file()));
      }
    }
    return finish(
        sheet, problems.stream().filter(p -> !others.contains(p.place().file())).toList());
  }

  private AnswerTable finish(AnswerTable.Builder sheet, List<Problem> told) {
    if (told.size() == 1) {
      sheet.note("One problem in the input may change this: " + told.get(0));
    } else if (!told.isEmpty()) {
      sheet.note(told.size() + " problems in the input may change this; sober check lists them.");
    }
    gaps.forEach(gap -> sheet.note(FindingAnswers.capital(gap.words()) + "."));
    for (Completeness c : model.facts().arrays().completeness()) {
      if (c.withheld() > 0) {
        sheet.note(
            count(c.withheld(), "entry", "entries")
                + " of "
                + c.source()
                + " withheld "
                + c.attribute()
                + "; what depends on it is not complete.");
      }
    }
    return sheet.build();
  }

  /** What a key names, in words; the key itself when it is no subject. */
  public String name(Key key) {
    Facts facts = model.facts();
    return facts.find(key).map(subject -> Words.subject(facts, subject)).orElse(key.text());
  }

  /** A moment, a date alone where a day begins, or nothing for the ends of time. */
  public String moment(long epochSecond) {
    if (epochSecond == Long.MIN_VALUE || epochSecond == Long.MAX_VALUE) {
      return "";
    }
    ZonedDateTime at = Instant.ofEpochSecond(epochSecond).atZone(zone);
    boolean midnight = at.toLocalTime().equals(LocalTime.MIDNIGHT);
    return midnight ? at.toLocalDate().toString() : TIME.format(at);
  }

  /** A state with a sign before it, so that colour is never alone. */
  public static String sign(Standing.State state) {
    return switch (state) {
      case USABLE -> "+ usable";
      case UNDECIDED -> "? undecided";
      case BLOCKED -> "x blocked";
    };
  }

  /** "1 account", "2 accounts". */
  public static String count(int number, String one, String many) {
    return Words.count(number, one, many);
  }
}
