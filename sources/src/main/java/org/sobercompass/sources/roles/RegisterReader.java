package org.sobercompass.sources.roles;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.system.Enrolment;
import org.sobercompass.sources.SystemFormat.Context;
import org.sobercompass.sources.text.CsvReader;
import org.sobercompass.sources.text.YesNo;

/** Reads an application's register from CSV: whom it knows, for which sign-in, active or not. */
final class RegisterReader {
  private static final List<String> KNOWN =
      List.of("kind", "subject", "provider", "active", "second factor", "place");

  private final String name;
  private final Context context;
  private final List<Enrolment> lines = new ArrayList<>();

  RegisterReader(String name, Context context) {
    this.name = name;
    this.context = context;
  }

  List<Enrolment> read() {
    new CsvReader(name, KNOWN, List.of("kind", "subject"), context.problems())
        .read(context.root().resolve(name), this::row);
    return lines;
  }

  private void row(CsvReader.Row row) {
    String kindWord = row.get("kind").toLowerCase(Locale.ROOT);
    SubjectKind kind = kindWord.equals("group") ? SubjectKind.GROUP : SubjectKind.ACCOUNT;
    if (!kindWord.equals("group") && !kindWord.equals("account")) {
      context
          .problems()
          .unknown(
              row.place(),
              Problem.quote(row.get("kind")) + " cannot be enrolled",
              "account or group",
              kindWord,
              List.of("account", "group"));
      return;
    }
    boolean active = yes(row, "active", true);
    boolean secondFactor = yes(row, "second factor", false);
    String subject = row.get("subject");
    String provider = row.get("provider");
    lines.add(
        new Enrolment(
            context.names().trustee(kind, subject, row.place()),
            subject,
            provider.isEmpty() ? "directory" : provider,
            active,
            secondFactor,
            row.get("place"),
            row.place()));
  }

  private boolean yes(CsvReader.Row row, String column, boolean otherwise) {
    String text = row.get(column);
    Optional<Boolean> yes = text.isEmpty() ? Optional.of(otherwise) : YesNo.parse(text);
    if (yes.isEmpty()) {
      context
          .problems()
          .error(
              row.place(),
              column + ": " + Problem.quote(text) + " is neither yes nor no",
              "yes or no");
    }
    return yes.orElse(false);
  }
}
