package org.sobercompass.cli;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.Callable;
import org.sobercompass.core.proposal.Proposal;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Parameters;

/** {@code sober preview}. */
@Command(
    name = "preview",
    mixinStandardHelpOptions = true,
    description = {
      "Shows what the changes in some files would do together, before anything is written.",
      "With --write they are also written into the files of the workspace, all or none.",
      ""
    },
    footer = {
      "",
      "Examples, on the demo:",
      "  sober preview proposals/standins.csv",
      "  sober preview proposals/leave-approvers.ldif proposals/two-hands.yaml",
      "  sober preview proposals/dusk-shift.yaml",
      "  sober preview proposals/staging.sql",
      "A .csv file has the columns change (assign or withdraw), application, role, kind, subject,",
      "node, descendants, from, until; for admin roles scope, and change can be include or except,",
      "with groups. A .ldif file has change records of groups and accounts (RFC 2849), which may",
      "also be created and deleted; a .sql file",
      "grants and revokes of a PostgreSQL database.",
      "A .yaml file is a kept proposal."
    })
final class PreviewCommand implements Callable<Integer> {
  @Mixin private Inputs inputs = new Inputs();
  @Mixin private Proposing proposing = new Proposing();

  @Parameters(
      index = "0..*",
      arity = "1..*",
      paramLabel = "FILE",
      description = "proposals: .csv, .ldif, .sql or .yaml")
  private List<Path> files = new ArrayList<>();

  @Override
  public Integer call() {
    Proposal all = new Proposal("", List.of());
    for (Path file : files) {
      // As typed, else in the workspace.
      Path path = Files.exists(file) ? file : inputs.root.resolve(file);
      all = all.then(inputs.expecting(inputs.organization().proposal(path, file.toString())));
    }
    return proposing.run(all, inputs);
  }
}
