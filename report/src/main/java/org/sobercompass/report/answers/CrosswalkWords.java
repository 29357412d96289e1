package org.sobercompass.report.answers;

import java.util.ArrayList;
import java.util.List;
import org.sobercompass.core.access.Words;
import org.sobercompass.core.crosswalk.Candidate;
import org.sobercompass.core.crosswalk.Crosswalk.Doubt;
import org.sobercompass.core.crosswalk.CrosswalkLine;
import org.sobercompass.core.crosswalk.CrosswalkTable.Row;
import org.sobercompass.core.crosswalk.Match;
import org.sobercompass.core.crosswalk.MatchRule;
import org.sobercompass.core.crosswalk.Reason;
import org.sobercompass.core.crosswalk.RuleNote;
import org.sobercompass.core.crosswalk.Ruling;
import org.sobercompass.core.facts.Facts;

/** Why somebody is taken for somebody, in words. */
final class CrosswalkWords {
  private static final int SHOWN = 3;

  private final Facts facts;

  CrosswalkWords(Facts facts) {
    this.facts = facts;
  }

  /** How sure a row is: what was found, or what was decided. */
  static String sure(Row row) {
    if (row.line().ruling() == Ruling.OPEN) {
      return row.sure().map(sure -> sure.word()).orElse("not found any more");
    }
    String what = row.line().ruling() == Ruling.SAME ? "accepted" : "never";
    String by = row.line().by().isEmpty() ? "" : " by " + row.line().by();
    return what + by + row.line().on().map(day -> " on " + day).orElse("");
  }

  /** What speaks for the counterpart, what against it, and who else could be it. */
  String why(Row row) {
    List<String> parts = new ArrayList<>();
    row.candidate().ifPresent(candidate -> parts.add(reasons(row.line(), candidate)));
    row.match()
        .ifPresent(
            match -> {
              if (match.candidates().size() > 1) {
                parts.add(others(match, row));
              }
              if (!match.rivals().isEmpty()) {
                parts.add(names(match.rivals()) + " could be the same");
              }
              if (match.candidates().isEmpty()) {
                parts.add(match.nearest().map(n -> nearest(row, n)).orElse("nobody is like it"));
              }
            });
    return String.join("; ", parts);
  }

  private String others(Match match, Row row) {
    List<Integer> others =
        match.candidates().stream()
            .map(Candidate::to)
            .filter(to -> row.candidate().isEmpty() || row.candidate().get().to() != to)
            .toList();
    return names(others) + (others.size() == 1 ? " fits too" : " fit too");
  }

  private String names(List<Integer> subjects) {
    String names =
        String.join(
            ", ", subjects.stream().limit(SHOWN).map(s -> Words.subject(facts, s)).toList());
    int more = subjects.size() - SHOWN;
    return more > 0 ? names + " and " + more + " more" : names;
  }

  private String nearest(Row row, Match.Nearest nearest) {
    String who = Words.subject(facts, nearest.candidate().to());
    String reasons = reasons(row.line(), nearest.candidate());
    return switch (nearest.why()) {
      case LITTLE -> "nearest is " + who + ", and that is not enough: " + reasons;
      case NATURE -> who + " is an account of another nature: " + reasons;
      case NEVER -> "never " + who + ", somebody said; " + reasons;
      case TAKEN -> who + " is somebody else's counterpart; " + reasons;
    };
  }

  /** What speaks for two, and what against them. */
  private String reasons(CrosswalkLine line, Candidate candidate) {
    String from = facts.find(line.from()).map(facts::label).orElse(line.fromName());
    String names = "(" + from + ", " + facts.label(candidate.to()) + ")";
    return String.join(
        "; ", candidate.reasons().stream().map(reason -> reason(reason, from, names)).toList());
  }

  /** Names are shown as they are written, not as they are compared. */
  private static String reason(Reason reason, String from, String names) {
    boolean name = reason.what().equals(MatchRule.NAME);
    return switch (reason.degree()) {
      case SAME -> same(reason, name ? from : reason.value());
      case PARTLY ->
          name
              ? "names share a part " + names
              : reason.value() + " of the " + reason.what() + " are the same";
      case DIFFERENT ->
          name
              ? "names have nothing in common " + names
              : "another "
                  + reason.what()
                  + " ("
                  + reason.value()
                  + ", not "
                  + reason.other()
                  + ")";
    };
  }

  private static String same(Reason reason, String value) {
    if (reason.what().equals(MatchRule.PERSON)) {
      return "known to be one person's (" + reason.value() + ")";
    }
    if (reason.what().equals("members")) {
      return reason.value() + " members are the same";
    }
    String others = reason.held() == 1 ? "" : ", which " + reason.held() + " have";
    return "same " + reason.what() + " " + value + others;
  }

  /** What of a decided line does not hold any more; a sentence without a full stop. */
  static String doubt(Doubt doubt) {
    CrosswalkLine line = doubt.line();
    String which = line.place() + ": " + line.fromName() + " = " + line.toName();
    return switch (doubt.trouble()) {
      case FROM_GONE -> which + ": " + line.fromName() + " is not there any more";
      case TO_GONE -> which + ": " + line.toName() + " is not there any more";
      case RENAMED -> which + ": one of them is called " + doubt.now() + " now, by its id";
      case CHANGED ->
          which
              + ": they agreed on "
              + line.agreed()
              + " when it was accepted, and now on "
              + (doubt.now().isEmpty() ? "nothing" : doubt.now())
              + "; look at it again";
      case TWICE -> which + ": a line before says that it is " + doubt.now();
      case CIRCLE -> which + ": other lines lead back from there";
      case MERGED -> which + ": " + doubt.now() + " is said to be the same too";
    };
  }

  /** What the rules found to compare, where they tell little or nothing; a sentence each. */
  static List<String> rules(List<RuleNote> notes, String from, String to) {
    List<String> unfilled = new ArrayList<>();
    List<String> unshared = new ArrayList<>();
    List<String> told = new ArrayList<>();
    for (RuleNote note : notes) {
      String what = note.rule().label();
      if (note.filledFrom() == 0 || note.filledTo() == 0) {
        unfilled.add(what + " (" + (note.filledFrom() == 0 ? from : to) + ")");
      } else if (note.shared() == 0) {
        unshared.add(what);
      }
      if (note.many() > 0) {
        told.add(
            AnswerContext.count(note.many(), "value", "values")
                + " of "
                + what
                + (note.many() == 1 ? " counts" : " count")
                + " as no evidence: more than 5 accounts of one side have "
                + (note.many() == 1 ? "it." : "them."));
      }
    }
    if (!unfilled.isEmpty()) {
      told.add(
          "Nothing to compare, since no account of that side has a value that was read: "
              + String.join(", ", unfilled)
              + ".");
    }
    if (!unshared.isEmpty()) {
      told.add(
          "Compared, but no value held by few is on both sides: "
              + String.join(", ", unshared)
              + ".");
    }
    return told;
  }
}
