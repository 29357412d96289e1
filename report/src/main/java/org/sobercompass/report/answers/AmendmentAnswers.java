package org.sobercompass.report.answers;

import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import org.sobercompass.core.amendment.Amendment;
import org.sobercompass.core.amendment.AmendmentRecord;
import org.sobercompass.core.amendment.Journal;
import org.sobercompass.core.amendment.Rehearsal;
import org.sobercompass.core.amendment.Standing;
import org.sobercompass.core.amendment.Work;
import org.sobercompass.core.audit.Foretold;
import org.sobercompass.core.audit.OtherwiseSince;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.report.data.AnswerTable;

/** Amendments, and how far they are carried out, in words and tables. Immutable. */
public final class AmendmentAnswers {
  private static final int LOSSES = 5;

  private final Amendment amendment;
  private final List<String> losses;

  /**
   * Answers about an amendment.
   *
   * @param losses what carrying it out loses for good: sentences without a full stop
   */
  public AmendmentAnswers(Amendment amendment, List<String> losses) {
    this.amendment = amendment;
    this.losses = List.copyOf(losses);
  }

  /**
   * All records, and what was done with each.
   *
   * @param journals what was done, by target
   */
  public AnswerTable all(Map<String, Journal> journals) {
    AnswerTable.Builder sheet =
        AnswerTable.of("amendment/1", "record", "system", "place", "what", "state");
    int made = 0;
    int failed = 0;
    for (AmendmentRecord record : amendment.records()) {
      Journal.State state =
          Optional.ofNullable(journals.get(record.target()))
              .map(journal -> journal.state(record.number()))
              .orElse(Journal.State.OPEN);
      made += state == Journal.State.MADE || state == Journal.State.WAS_SO ? 1 : 0;
      failed += state == Journal.State.FAILED || state == Journal.State.NOT_UNDONE ? 1 : 0;
      sheet.row(
          record.number(),
          record.target(),
          record.place(),
          FindingAnswers.capital(record.words()),
          words(state));
    }
    int size = amendment.records().size();
    String what =
        AnswerContext.count(size, "record changes", "records change")
            + " "
            + AnswerContext.count(amendment.targets().size(), "system", "systems");
    sheet.heading(
        size == 0
            ? "No record: nothing here is changed by this program."
            : what
                + (made == 0 && failed == 0
                    ? "; none is carried out yet."
                    : "; "
                        + made
                        + (made == 1 ? " is" : " are")
                        + " carried out"
                        + (failed > 0 ? ", " + failed + " could not be." : ".")));
    amendment.byHand().forEach(line -> sheet.note("By hand: " + line + "."));
    lost(sheet);
    sheet.note("It rests on " + amendment.restsOn() + ".");
    return sheet.build();
  }

  private void lost(AnswerTable.Builder sheet) {
    losses.stream().limit(LOSSES).forEach(loss -> sheet.note("For good: " + loss + "."));
    if (losses.size() > LOSSES) {
      sheet.note("For good: the same of " + (losses.size() - LOSSES) + " more.");
    }
  }

  private static String words(Journal.State state) {
    return switch (state) {
      case OPEN -> "open";
      case BEGUN -> "begun";
      case MADE -> "made";
      case WAS_SO -> "was so already";
      case FAILED -> "not made";
      case UNDO_BEGUN -> "undo begun";
      case UNDONE -> "undone";
      case NOT_UNDONE -> "not undone";
    };
  }

  /**
   * How a live system stands to records, before anything is written.
   *
   * @param undo whether they would be taken back
   */
  public AnswerTable rehearsal(String target, Rehearsal rehearsal, boolean undo) {
    AnswerTable.Builder sheet =
        AnswerTable.of("rehearsal/1", "record", "place", "what", "the system stands", "found");
    for (Rehearsal.Asked asked : rehearsal.all()) {
      sheet.row(
          asked.record().number(),
          asked.record().place(),
          FindingAnswers.capital(asked.record().words()),
          words(asked.standing(), undo),
          asked.found());
    }
    int ready = rehearsal.count(Standing.BEFORE);
    int done = rehearsal.count(Standing.AFTER);
    int other = rehearsal.count(Standing.OTHER);
    String verb = undo ? "taken back" : "carried out";
    String all = AnswerContext.count(done, "record is", "records are");
    sheet.heading(
        done > 0 && ready + other == 0
            ? (done > 1 ? "All " : "The ")
                + all
                + (undo ? " as before on " : " as made on ")
                + target
                + ". Nothing was written."
            : ready
                + " of "
                + AnswerContext.count(rehearsal.all().size(), "record", "records")
                + " can be "
                + verb
                + " on "
                + target
                + (done > 0 ? "; for " + done + " it is so already" : "")
                + (other > 0 ? "; for " + other + " something else stands there" : "")
                + ". Nothing was written.");
    return sheet.build();
  }

  private static String words(Standing standing, boolean undo) {
    return switch (standing) {
      case BEFORE -> undo ? "as it was made" : "as it was read";
      case AFTER -> undo ? "as it was before" : "as it is to be";
      case OTHER -> "otherwise";
    };
  }

  /**
   * What came of carrying out, or of taking back.
   *
   * @param records those that were asked for
   * @param journal what was done, until now
   */
  public AnswerTable work(
      String target, Work work, List<AmendmentRecord> records, Journal journal, boolean undo) {
    AnswerTable.Builder sheet = AnswerTable.of("work/1", "record", "place", "what", "state", "why");
    for (AmendmentRecord record : records) {
      String why =
          work.failed().stream()
              .filter(failure -> failure.record().number() == record.number())
              .map(Work.Failure::why)
              .findFirst()
              .orElse("");
      sheet.row(
          record.number(),
          record.place(),
          FindingAnswers.capital(record.words()),
          words(journal.state(record.number())),
          why);
    }
    sheet.heading(came(target, work, undo));
    if (!work.stopped().isEmpty()) {
      sheet.note(
          FindingAnswers.capital(work.stopped())
              + ". The same command goes on where this one stopped.");
    }
    return sheet.build();
  }

  /** What came of it, in a sentence. */
  private static String came(String target, Work work, boolean undo) {
    String verb = undo ? "taken back" : "carried out";
    StringBuilder said = new StringBuilder();
    if (work.made() == 0) {
      said.append("Nothing was ").append(verb).append(" on ").append(target).append(" now");
    } else {
      said.append(work.made())
          .append(" of ")
          .append(AnswerContext.count(work.asked(), "record", "records"))
          .append(work.made() == 1 ? " was " : " were ")
          .append(verb)
          .append(" on ")
          .append(target);
    }
    add(
        said,
        work.before(),
        undo
            ? "had nothing to be taken back"
            : work.before() == 1 ? "was made before" : "were made before");
    add(
        said,
        work.wasSo(),
        (work.wasSo() == 1 ? "was so " : "were so ") + (undo ? "before and stays" : "already"));
    add(said, work.failed().size(), undo ? "could not be taken back" : "could not be made");
    add(said, work.left(), work.left() == 1 ? "was not tried" : "were not tried");
    return said.append('.').toString();
  }

  /**
   * Whether what the preview said came true, on what was read since.
   *
   * @param ask what it is held against
   */
  public static AnswerTable readback(
      AnswerContext ask, Foretold foretold, Foretold.Readback readback, OtherwiseSince since) {
    AnswerTable.Builder sheet =
        ask.begin("read-back/2", "key", "login", "system", "what", "where", "said", "is", "since");
    Map<String, String> logins = logins(ask.model().facts());
    for (Foretold.Differs differs : readback.rights()) {
      Foretold.Right right = differs.said();
      sheet.row(
          right.account(),
          logins.getOrDefault(right.account(), "not there"),
          right.system(),
          right.what(),
          right.where(),
          right.verdict().name().toLowerCase(Locale.ROOT),
          differs.now().map(now -> now.name().toLowerCase(Locale.ROOT)).orElse("not there"),
          since(since.of(right)));
    }
    for (String key : readback.notBegun()) {
      String when = since(since.of(key));
      sheet.row("", "", "", "finding", key, "begins", "is not there", when);
    }
    for (String key : readback.notEnded()) {
      sheet.row("", "", "", "finding", key, "ends", "is there", since(since.of(key)));
    }
    String rights =
        AnswerContext.count(foretold.rights().size(), "right", "rights")
            + ", "
            + AnswerContext.count(foretold.begin().size(), "finding begins", "findings begin")
            + ", "
            + AnswerContext.count(foretold.end().size(), "finding ends", "findings end");
    sheet.heading(
        readback.isAsSaid()
            ? "Everything is as the preview said: " + rights + "."
            : sheet.size() + " of what the preview said is otherwise; it said: " + rights + ".");
    return ask.finish(sheet);
  }

  /** The two readings between which it came about; surveys have these moments as names. */
  private static String since(Optional<OtherwiseSince.When> when) {
    return when.map(
            one ->
                one.asSaid()
                    .map(last -> "between " + second(last) + " and " + second(one.otherwise()))
                    .orElse("from the start"))
        .orElse("");
  }

  private static Instant second(Instant moment) {
    return moment.truncatedTo(ChronoUnit.SECONDS);
  }

  private static Map<String, String> logins(Facts facts) {
    Map<String, String> logins = new HashMap<>();
    for (int account = 0; account < facts.accounts(); account++) {
      logins.put(facts.key(account).text(), facts.login(account));
    }
    return logins;
  }

  private static void add(StringBuilder said, int count, String what) {
    if (count > 0) {
      said.append(String.format(Locale.ROOT, "; %d %s", count, what));
    }
  }
}
