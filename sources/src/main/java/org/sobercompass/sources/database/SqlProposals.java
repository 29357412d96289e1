package org.sobercompass.sources.database;

import java.nio.file.Path;
import java.util.function.Consumer;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.core.proposal.Step;
import org.sobercompass.core.system.database.DatabaseAccess;
import org.sobercompass.sources.ProposalForm;
import org.sobercompass.sources.text.TextFiles;

/** Grants and revokes of PostgreSQL as proposals. */
public final class SqlProposals implements ProposalForm {
  @Override
  public String ending() {
    return "sql";
  }

  @Override
  public String words() {
    return "grants and revokes of the database";
  }

  @Override
  public void read(
      Path file, String name, AccessModel model, Problems problems, Consumer<Step> into) {
    var databases =
        model.systems().stream().filter(v -> v.system() instanceof DatabaseAccess).toList();
    if (databases.size() != 1) {
      problems.error(
          Place.of(name),
          databases.isEmpty()
              ? "there is no database in the workspace"
              : "there are several databases, and the statements do not say which",
          "one database, or a .yaml file with add-entry and take-entry");
      return;
    }
    SystemView view = databases.get(0);
    SqlStatements statements = new SqlStatements(model, view, into);
    TextFiles.read(file, name, TextFiles.LARGEST, problems)
        .ifPresent(
            text ->
                SqlWords.statements(
                    text,
                    (words, line) -> {
                      try {
                        statements.take(words);
                      } catch (IllegalArgumentException e) {
                        problems.error(
                            Place.of(name, line),
                            Problem.quote(String.valueOf(e.getMessage())).replace("\"", ""),
                            "grant and revoke of rights on objects, or of roles");
                      }
                    }));
    statements.end();
  }
}
