package org.sobercompass.cli;

import java.io.PrintWriter;
import java.io.StringWriter;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.concurrent.Callable;
import org.jspecify.annotations.Nullable;
import org.sobercompass.core.amendment.Amendment;
import org.sobercompass.core.audit.Foretold;
import org.sobercompass.core.audit.Preview;
import org.sobercompass.core.proposal.Bound;
import org.sobercompass.core.proposal.Proposal;
import org.sobercompass.report.answers.AmendmentAnswers;
import org.sobercompass.report.answers.PreviewAnswers;
import org.sobercompass.report.data.AnswerTable;
import org.sobercompass.report.data.AnswerTableWriter;
import org.sobercompass.report.data.Format;
import org.sobercompass.sources.TargetKinds;
import org.sobercompass.sources.amendment.AmendmentFolder;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** {@code sober amend}. */
@Command(
    name = "amend",
    mixinStandardHelpOptions = true,
    description = {
      "Turns proposals into change records for the systems themselves, with the undo of each:",
      "a folder that can be handed on. Nothing is changed anywhere else.",
      ""
    },
    footer = {
      "",
      "Examples, on the demo:",
      "  sober unpick m8za0f --way 1 --keep end.yaml",
      "  sober amend end.yaml --out amendments/end",
      "  sober amend proposals/leave-approvers.ldif --out amendments/leave \\",
      "      --as alderfen=cn=editor,dc=alderfen,dc=example",
      "  sober carry-out amendments/end      what is in it, and how far it is carried out"
    })
final class AmendCommand implements Callable<Integer> {
  private static final int WIDTH = 100;

  @Mixin private Inputs inputs = new Inputs();

  @Parameters(
      index = "0..*",
      arity = "1..*",
      paramLabel = "FILE",
      description = "proposals: .csv, .ldif, .sql or .yaml")
  private List<Path> files = new ArrayList<>();

  @Option(
      names = {"-o", "--out"},
      required = true,
      paramLabel = "FOLDER",
      description = "the new folder")
  private @Nullable Path out;

  @Option(
      names = "--as",
      paramLabel = "SYSTEM=WHO",
      description = "as whom a system is to be changed; another identity is refused then")
  private List<String> identities = new ArrayList<>();

  @Override
  public Integer call() {
    Map<String, String> as = new HashMap<>();
    for (String one : identities) {
      int at = one.indexOf('=');
      if (at < 1) {
        throw new UsageException("--as " + one + "; expected SYSTEM=WHO");
      }
      as.put(one.substring(0, at), one.substring(at + 1));
    }
    Proposal all = new Proposal("", List.of());
    for (Path file : files) {
      Path path = Files.exists(file) ? file : inputs.root.resolve(file);
      all = all.then(inputs.expecting(inputs.organization().proposal(path, file.toString())));
    }
    PreviewAnswers answers = new PreviewAnswers(inputs.ask(), inputs.assessment());
    Amendment amendment = inputs.organization().amendment(all, answers::words, as);
    as.keySet().stream()
        .filter(name -> amendment.target(name).isEmpty())
        .findFirst()
        .ifPresent(
            name -> {
              throw new UsageException(
                  "--as " + name + ": the amendment changes no system of that name");
            });
    Bound bound = all.on(inputs.assessment().model());
    Preview preview = inputs.organization().preview(bound.changes());
    AmendmentFolder folder =
        AmendmentFolder.write(
            amendment,
            Foretold.of(inputs.assessment(), bound.changes(), preview),
            text(answers.brief(bound, preview)),
            Objects.requireNonNull(out));
    inputs.print(
        new AmendmentAnswers(amendment, TargetKinds.losses(amendment, amendment.records()))
            .all(Map.of()));
    inputs.err().println("Written: " + folder.path() + ", digest " + folder.digest() + ".");
    inputs.err().println("Nothing is carried out yet; sober carry-out " + folder.path() + " does.");
    return Exit.OK;
  }

  /** What the preview says, as a text. */
  private static String text(List<AnswerTable> preview) {
    StringWriter text = new StringWriter();
    PrintWriter to = new PrintWriter(text);
    preview.forEach(
        table -> {
          AnswerTableWriter.write(table, Format.table, WIDTH, false, to);
          to.println();
        });
    to.flush();
    return text.toString();
  }
}
