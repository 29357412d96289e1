package org.sobercompass.sources.crosswalk;

import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.time.format.DateTimeParseException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.sobercompass.core.carry.CarryPlan.How;
import org.sobercompass.core.carry.Remembered;
import org.sobercompass.core.key.Key;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.sources.disk.OwnFiles;
import org.sobercompass.sources.text.CsvReader;
import org.sobercompass.sources.text.YesNo;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.ObjectWriter;
import tools.jackson.dataformat.csv.CsvMapper;
import tools.jackson.dataformat.csv.CsvSchema;

/**
 * The file that remembers what was carried: a row for each right, beside the table of the
 * crosswalk. Its owner's only.
 */
public final class CarriedFile {
  private static final String TARGETS = "\n";
  private static final List<String> COLUMNS =
      List.of("id", "from", "to", "how", "on", "own", "seen", "source", "target");

  private final Path file;
  private final String shown;

  /** Beside a table, with the name of the table. */
  public CarriedFile(Path root, CrosswalkSettings settings) {
    this.shown = settings.file().replaceFirst("([.][^./]*)?$", ".carried.csv");
    this.file = root.resolve(shown);
  }

  /** The file, as the user names it. */
  public String shown() {
    return shown;
  }

  /**
   * What is remembered; nothing where there is no file yet.
   *
   * @throws org.sobercompass.core.problem.BadInputException with everything that is wrong
   */
  public List<Remembered> read() {
    List<Remembered> all = new ArrayList<>();
    if (!Files.exists(file)) {
      return all;
    }
    Problems problems = new Problems();
    new CsvReader(shown, COLUMNS, COLUMNS, problems)
        .read(file, row -> remembered(row, problems).ifPresent(all::add));
    problems.throwIfErrors();
    return all;
  }

  private static Optional<Remembered> remembered(CsvReader.Row row, Problems problems) {
    Optional<Key> from = Key.read(row.get("from"));
    Optional<Key> to = Key.read(row.get("to"));
    Optional<How> how = How.of(row.get("how"));
    Optional<Boolean> own = YesNo.parse(row.get("own"));
    Optional<Boolean> seen = YesNo.parse(row.get("seen"));
    Optional<LocalDate> on = day(row.get("on"));
    boolean words = own.isPresent() && seen.isPresent();
    if (from.isEmpty() || to.isEmpty() || how.isEmpty() || !words || on.isEmpty()) {
      problems.add(
          Problem.error(
              row.place(),
              "the row cannot be read",
              "rows as sober carry --keep wrote them; without the file it remembers nothing"));
      return Optional.empty();
    }
    return Optional.of(
        new Remembered(
            row.get("id"),
            from.get(),
            to.get(),
            how.get(),
            on.get(),
            own.get(),
            seen.get(),
            row.get("source"),
            List.of(row.get("target").split(TARGETS))));
  }

  private static Optional<LocalDate> day(String text) {
    try {
      return Optional.of(LocalDate.parse(text));
    } catch (DateTimeParseException e) {
      return Optional.empty();
    }
  }

  /** Keeps what is remembered. */
  public void write(List<Remembered> all) {
    CsvSchema.Builder schema = CsvSchema.builder().setUseHeader(true).setLineSeparator("\n");
    COLUMNS.forEach(schema::addColumn);
    ObjectWriter writer = CsvMapper.builder().build().writer(schema.build());
    List<List<String>> rows = new ArrayList<>();
    for (Remembered one : all) {
      rows.add(
          List.of(
              one.id(),
              one.from().text(),
              one.to().text(),
              one.how().word(),
              one.on().toString(),
              one.own() ? "yes" : "no",
              one.seen() ? "yes" : "no",
              one.source(),
              String.join(TARGETS, one.target())));
    }
    try {
      OwnFiles.write(file, writer.writeValueAsString(rows));
    } catch (JacksonException e) {
      throw new IllegalStateException(e);
    }
  }
}
