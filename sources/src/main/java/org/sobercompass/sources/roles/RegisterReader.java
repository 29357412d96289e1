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
  private static final List<String> KNOWN = List.of("kind", "subject", "provider", "active");

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
    String active = row.get("active");
    Optional<Boolean> isActive = active.isEmpty() ? Optional.of(true) : YesNo.parse(active);
    if (isActive.isEmpty()) {
      context
          .problems()
          .error(
              row.place(),
              "active: " + Problem.quote(active) + " is neither yes nor no",
              "yes or no");
    }
    String subject = row.get("subject");
    String provider = row.get("provider");
    lines.add(
        new Enrolment(
            context.names().resolve(kind, subject, row.place()),
            subject,
            provider.isEmpty() ? "directory" : provider,
            isActive.orElse(false),
            row.place()));
  }
}
