package org.sobercompass.cli;

import java.nio.file.Path;
import java.time.Duration;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.util.List;
import java.util.Locale;
import org.sobercompass.core.problem.Gap;
import org.sobercompass.report.answers.AnswerContext;
import org.sobercompass.report.answers.FindingAnswers;
import org.sobercompass.report.data.AnswerTable;
import org.sobercompass.sources.survey.SurveyPart;

/** Surveys as rows. */
final class SurveySheets {
  private static final int NAMED = 10;
  private static final DateTimeFormatter TIME =
      DateTimeFormatter.ofPattern("yyyy-MM-dd HH:mm:ss'Z'", Locale.ROOT).withZone(ZoneOffset.UTC);

  private SurveySheets() {}

  static AnswerTable parts(String heading, List<SurveyPart> parts, String digest) {
    AnswerTable.Builder sheet =
        AnswerTable.of(
                "survey/1",
                "source",
                "entries",
                "taken",
                "seconds",
                "as",
                "from",
                "protection",
                "attributes")
            .heading(heading)
            .fact("SHA-256", digest);
    for (SurveyPart part : parts) {
      Duration took = Duration.between(part.started(), part.ended());
      sheet.row(
          part.name(),
          part.entries(),
          part.dated() ? TIME.format(part.ended()) : "not said",
          part.how().equals("ldap") ? took.toMillis() / 1000.0 + "" : "",
          part.identity(),
          part.place(),
          part.protection(),
          part.completeness().isEmpty() ? "" : part.completeness().size() + "");
      notes(part, sheet);
    }
    List<String> unread =
        parts.stream().filter(SurveySheets::isWithoutRules).map(SurveyPart::name).toList();
    if (!unread.isEmpty()) {
      sheet.note(FindingAnswers.capital(Gap.rules(unread).words()) + ".");
    }
    return sheet.build();
  }

  /** Whether a part shows no access control list at all: its rules stand in its configuration. */
  private static boolean isWithoutRules(SurveyPart part) {
    return part.completeness().stream()
        .noneMatch(c -> c.attribute().equals("ntsecuritydescriptor") && c.returned() > 0);
  }

  private static void notes(SurveyPart part, AnswerTable.Builder sheet) {
    if (!part.moved().isEmpty()) {
      sheet.note(
          part.name()
              + ": moved or changed while it was read: "
              + String.join("; ", part.moved().stream().limit(NAMED).toList())
              + (part.moved().size() > NAMED ? " and more" : ""));
    }
    if (part.changes().size() == 2 && !part.changes().get(0).equals(part.changes().get(1))) {
      sheet.note(
          part.name()
              + ": the directory changed while it was read (its counter went from "
              + part.changes().get(0)
              + " to "
              + part.changes().get(1)
              + ")");
    }
    if (!part.referrals().isEmpty()) {
      sheet.note(
          part.name()
              + ": there is more elsewhere, which was not followed: "
              + String.join(", ", part.referrals().stream().limit(NAMED).toList()));
    }
    part.completeness().stream()
        .filter(c -> c.withheld() > 0)
        .forEach(
            c ->
                sheet.note(
                    part.name()
                        + ": "
                        + c.attribute()
                        + " was withheld of "
                        + AnswerContext.count(c.withheld(), "entry", "entries")));
  }

  static AnswerTable list(List<Path> files) {
    AnswerTable.Builder sheet = AnswerTable.of("surveys/1", "survey", "bytes");
    files.forEach(file -> sheet.row(file.toString(), file.toFile().length()));
    return sheet
        .heading(
            files.isEmpty()
                ? "There is no survey yet; `sober survey` takes one."
                : AnswerContext.count(files.size(), "survey", "surveys")
                    + ", the latest of "
                    + name(files.get(0))
                    + ".")
        .build();
  }

  private static String name(Path file) {
    String name = String.valueOf(file.getFileName());
    return name.substring(0, name.length() - ".survey.zip".length());
  }
}
