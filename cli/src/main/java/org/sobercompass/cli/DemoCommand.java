package org.sobercompass.cli;

import java.io.PrintWriter;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.Callable;
import org.sobercompass.sources.workspace.Surveys;
import picocli.CommandLine.Command;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;

/** {@code sober demo}: writes the demo workspace and walks through it. */
@Command(
    name = "demo",
    mixinStandardHelpOptions = true,
    description = "Writes the demo workspace into a folder and shows the main commands on it.",
    footer = {"", "Example:", "  sober demo /tmp/alderfen"})
final class DemoCommand implements Callable<Integer> {
  @Spec private CommandSpec spec = CommandSpec.create();

  @Parameters(index = "0", paramLabel = "DIR", description = "a new or empty folder")
  private Path root = Path.of("");

  private record Step(String says, int expected, String... command) {}

  private static final List<Step> STEPS =
      List.of(
          new Step("What was read, and what needs a look.", Exit.NO, "check"),
          new Step("What may the finance officer do?", Exit.OK, "show", "account", "ilse.brandt"),
          new Step("Who can sign payments?", Exit.OK, "holders", "orders:payments:sign", "--below"),
          new Step("Why can she?", Exit.OK, "routes", "ilse.brandt", "orders:payments:sign"),
          new Step(
              "Can the head of the seed vault issue permits for it? Yes.",
              Exit.OK,
              "can",
              "tova.quill",
              "permits:permits:issue",
              "--at",
              "vault"),
          new Step(
              "Can the buyer raise an order? No, and here is what stops it.",
              Exit.NO,
              "can",
              "joss.merrin",
              "orders:orders:raise"),
          new Step(
              "What would the buyer meet at sign-in, and what could not be done after it?",
              Exit.OK,
              "trial",
              "joss.merrin",
              "orders"),
          new Step(
              "What was delegated in the directory of desks, by whomever?",
              Exit.OK,
              "delegations",
              "--tree"),
          new Step("Who could come to control it, by what he holds?", Exit.OK, "reach", "desks"),
          new Step("What should not be?", Exit.NO, "findings"),
          new Step("One of them with its evidence.", Exit.NO, "findings", "--detail", "1"));

  @Override
  public Integer call() {
    PrintWriter out = spec.commandLine().getOut();
    PrintWriter err = spec.commandLine().getErr();
    DemoFiles.write(root);
    out.println(
        "Alderfen Botanic Trust, a made-up charity: "
            + DemoFiles.ALL.size()
            + " files written to "
            + root
            + ".");
    for (Step step : STEPS) {
      run(out, err, step);
    }
    changes(out, err);
    live(out, err);
    Path page = root.resolve("page.html");
    run(
        out,
        err,
        new Step("And the page for those who answer.", Exit.OK, "report", page.toString()));
    out.println();
    out.println(
        "Go on yourself: cd "
            + root
            + " and try the commands above; ANSWERS.md says what is right.");
    return Exit.OK;
  }

  /** What changes would do, before anything is written. */
  private void changes(PrintWriter out, PrintWriter err) {
    String standins = root.resolve("proposals/standins.csv").toString();
    run(
        out,
        err,
        new Step(
            "Roles for a stand-in, from a table. Before it is written: what would it do?",
            Exit.OK,
            "preview",
            standins));
    run(
        out,
        err,
        new Step(
            "What ends the finance officer's signing, and what would that take away besides?",
            Exit.OK,
            "unpick",
            "ilse.brandt",
            "orders:payments:sign"));
  }

  /** The same directory, asked over the wire: what is proposed for it, and what it holds. */
  private void live(PrintWriter out, PrintWriter err) {
    Path export = root.resolve("directory/alderfen.ldif");
    try (DemoDirectory directory = new DemoDirectory(export, "dc=alderfen,dc=example")) {
      String address = directory.address();
      run(
          out,
          err,
          new Step(
              "The same directory, live: which settings fit it? (A server in this process.)",
              Exit.OK,
              "probe",
              address,
              "--plain"));
      carryOut(address, out, err);
      String part = root.resolve("alderfen.survey.zip").toString();
      run(
          out,
          err,
          new Step(
              "And taken into one dated file, for whoever keeps the workspace.",
              Exit.OK,
              "survey",
              "collect",
              address,
              "--plain",
              "--name",
              "alderfen",
              "--out",
              part));
      run(
          out,
          err,
          new Step(
              "Which is joined into a survey of everything.", Exit.OK, "survey", "--join", part));
      takeBack(address, out, err);
    }
  }

  /** A change of the live directory: made ready, asked, made. */
  private void carryOut(String address, PrintWriter out, PrintWriter err) {
    String folder = root.resolve("leave").toString();
    String proposal = root.resolve("proposals/leave-approvers.ldif").toString();
    run(
        out,
        err,
        new Step(
            "The finance officer is to leave the approvers: what is to be done, and its undo.",
            Exit.OK,
            "amend",
            proposal,
            "--out",
            folder));
    run(
        out,
        err,
        new Step(
            "Does the live directory still stand as it was read?",
            Exit.OK,
            "carry-out",
            folder,
            "--at",
            address,
            "--plain"));
    run(
        out,
        err,
        new Step(
            "Then make it.", Exit.OK, "carry-out", folder, "--at", address, "--plain", "--write"));
  }

  /** Whether what was said came true, by the survey taken since; then everything as before. */
  private void takeBack(String address, PrintWriter out, PrintWriter err) {
    String folder = root.resolve("leave").toString();
    String survey = Surveys.all(root).get(0).toString();
    run(
        out,
        err,
        new Step(
            "Did it do what the preview said? By the survey just taken.",
            Exit.OK,
            "read-back",
            folder,
            "--survey",
            survey));
    run(
        out,
        err,
        new Step(
            "And back.",
            Exit.OK,
            "carry-out",
            folder,
            "--at",
            address,
            "--plain",
            "--undo",
            "--write"));
  }

  private void run(PrintWriter out, PrintWriter err, Step step) {
    List<String> command = new ArrayList<>(List.of(step.command));
    out.println();
    out.println("── " + step.says);
    out.println("$ sober " + String.join(" ", command));
    out.flush();
    command.addAll(List.of("--workspace", root.toString()));
    int code = Sober.run(out, err, command.toArray(String[]::new));
    if (code != step.expected) {
      throw new IllegalStateException(
          "sober " + String.join(" ", command) + " ended with " + code + ", not " + step.expected);
    }
  }
}
