package org.sobercompass.cli;

import java.io.PrintWriter;
import java.io.StringWriter;
import java.nio.file.Path;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Deque;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import org.sobercompass.core.access.Bulk;
import org.sobercompass.core.access.Words;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.review.Decision;
import org.sobercompass.core.review.Review;
import org.sobercompass.report.answers.ReviewAnswers;
import org.sobercompass.report.data.AnswerTable;
import org.sobercompass.report.data.AnswerTableWriter;
import org.sobercompass.report.data.Format;
import org.sobercompass.report.data.WorkbookWriter;
import org.sobercompass.report.page.ReviewPage;
import org.sobercompass.sources.disk.OwnFiles;
import org.sobercompass.sources.review.ReviewFolder;

/** Writes the sheets of a review: each as a page to fill in, as a workbook and as CSV. */
final class SheetFiles {
  private static final Map<String, List<String>> CHOICES =
      Map.of("decision", Arrays.stream(Decision.Kind.values()).map(Decision.Kind::word).toList());

  /** So many sheets at most are held until they are written. */
  private static final int MOST = 64;

  private final Inputs inputs;
  private final Path folder;
  private final Reviewing reviewing;
  private final Set<String> names = new HashSet<>();

  SheetFiles(Inputs inputs, Path folder, Reviewing reviewing) {
    this.inputs = inputs;
    this.folder = folder;
    this.reviewing = reviewing;
  }

  /** A sheet ready to be written. */
  private record Ready(Path path, String who, AnswerTable table) {}

  /**
   * Writes some sheets and what was asked; how many. The next is made while others are written; a
   * disk is waited for by more threads than there are processors.
   */
  int write(List<Review.Sheet> sheets) {
    Facts facts = inputs.model().facts();
    Path out = OwnFiles.folder(folder.resolve(ReviewFolder.SHEETS));
    List<ReviewFolder.Asked> asked = new ArrayList<>();
    inputs.model().progress().begin("sheets");
    ExecutorService writers =
        Executors.newFixedThreadPool(2 * Runtime.getRuntime().availableProcessors());
    try {
      Deque<Future<?>> writing = new ArrayDeque<>();
      for (int i = 0; i < sheets.size(); i++) {
        Review.Sheet sheet = sheets.get(i);
        String who = Words.subject(facts, sheet.responsible());
        String key = facts.key(sheet.responsible()).text();
        AnswerTable table = reviewing.answers().sheet(sheet);
        int check = ReviewAnswers.SAID.size();
        for (List<Object> row : table.rows()) {
          asked.add(new ReviewFolder.Asked((String) row.get(0), (String) row.get(check), who, key));
        }
        Ready ready = new Ready(out.resolve(name(facts, sheet.responsible())), who, table);
        writing.add(writers.submit(() -> files(ready)));
        if (writing.size() > MOST) {
          Bulk.result(writing.remove());
        }
        inputs.model().progress().at(i + 1, sheets.size());
      }
      writing.forEach(Bulk::result);
    } finally {
      writers.shutdownNow();
    }
    OwnFiles.folder(folder.resolve(ReviewFolder.ANSWERS));
    new ReviewFolder(folder).write(asked, inputs.model().asOf().toString());
    return sheets.size();
  }

  private static void files(Ready one) {
    String name = String.valueOf(one.path.getFileName());
    OwnFiles.write(
        one.path.resolveSibling(name + ".html"), ReviewPage.of(one.who, name, one.table).html());
    OwnFiles.write(
        one.path.resolveSibling(name + ".xlsx"),
        out -> WorkbookWriter.write(List.of(one.table), CHOICES, out));
    StringWriter csv = new StringWriter();
    PrintWriter out = new PrintWriter(csv);
    AnswerTableWriter.write(one.table, Format.csv, 0, false, out);
    out.flush();
    OwnFiles.write(one.path.resolveSibling(name + ".csv"), csv.toString());
  }

  /** A name for a file that no other sheet has. */
  private String name(Facts facts, int who) {
    String login = facts.login(who).isEmpty() ? facts.label(who) : facts.login(who);
    String plain = login.toLowerCase(Locale.ROOT).replaceAll("[^\\p{L}\\p{N}._-]+", "-");
    String own = plain.isEmpty() || plain.startsWith(".") ? "sheet" + plain : plain;
    String name = own;
    for (int number = 2; !names.add(name); number++) {
      name = own + "-" + number;
    }
    return name;
  }
}
