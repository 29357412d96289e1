package org.sobercompass.cli;

import java.io.PrintWriter;
import java.nio.charset.StandardCharsets;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.function.Supplier;
import org.sobercompass.core.problem.BadInputException;
import org.sobercompass.core.problem.OutsideException;
import org.sobercompass.core.problem.UnknownNameException;
import picocli.CommandLine;
import picocli.CommandLine.Command;
import picocli.CommandLine.Model.CommandSpec;

/** The entry point. Only the command that was typed is set up, which halves the time to start. */
@Command(
    name = "sober",
    version = "sober 0.1.0",
    mixinStandardHelpOptions = true,
    description = {
      "Who can do what, and why: effective permissions of directory accounts in applications.",
      ""
    },
    synopsisSubcommandLabel = "COMMAND",
    footer = {
      "",
      "Start with:  sober demo DIR",
      "Exit codes: 0 done or yes, 1 no or findings, 2 mistyped, 3 wrong input,",
      "            4 source not reached, 5 fault of the program, 6 undecided."
    })
public final class Sober implements Runnable {
  private static final Map<String, Supplier<Object>> COMMANDS = new LinkedHashMap<>();

  static {
    COMMANDS.put("demo", DemoCommand::new);
    COMMANDS.put("begin", BeginCommand::new);
    COMMANDS.put("probe", ProbeCommand::new);
    COMMANDS.put("check", CheckCommand::new);
    COMMANDS.put("survey", SurveyCommand::new);
    COMMANDS.put("collect", CollectCommand::new);
    COMMANDS.put("roles", RolesCommand::new);
    COMMANDS.put("drift", DriftCommand::new);
    COMMANDS.put("show", ShowCommand::new);
    COMMANDS.put("holders", HoldersCommand::new);
    COMMANDS.put("routes", RoutesCommand::new);
    COMMANDS.put("can", CanCommand::new);
    COMMANDS.put("trial", TrialCommand::new);
    COMMANDS.put("delegations", DelegationsCommand::new);
    COMMANDS.put("reach", ReachCommand::new);
    COMMANDS.put("list", ListCommand::new);
    COMMANDS.put("compare", CompareCommand::new);
    COMMANDS.put("findings", FindingsCommand::new);
    COMMANDS.put("expect", ExpectCommand::new);
    COMMANDS.put("fit", FitCommand::new);
    COMMANDS.put("report", ReportCommand::new);
  }

  @CommandLine.Spec private CommandSpec spec = CommandSpec.create();

  /** Runs and ends the process with the exit code. */
  public static void main(String[] args) {
    PrintWriter out = new PrintWriter(System.out, false, StandardCharsets.UTF_8);
    PrintWriter err = new PrintWriter(System.err, true, StandardCharsets.UTF_8);
    int code = run(out, err, args);
    out.flush();
    err.flush();
    System.exit(code);
  }

  /** Runs one command and returns the exit code; for tests and for commands that run others. */
  static int run(PrintWriter out, PrintWriter err, String... args) {
    CommandLine line = new CommandLine(new Sober());
    boolean one = args.length > 0 && COMMANDS.containsKey(args[0]);
    COMMANDS.forEach(
        (name, command) -> {
          if (!one || name.equals(args[0])) {
            line.addSubcommand(name, command.get());
          }
        });
    line.setOut(out).setErr(err).setUsageHelpWidth(Math.min(Terminal.width(), 100));
    line.setCaseInsensitiveEnumValuesAllowed(true);
    line.setExecutionExceptionHandler((e, command, parsed) -> tell(e, err));
    int code = line.execute(args);
    out.flush();
    return code;
  }

  private static int tell(Exception e, PrintWriter err) {
    if (e instanceof BadInputException bad) {
      err.println(bad.getMessage());
      return Exit.INPUT;
    }
    if (e instanceof OutsideException) {
      err.println(e.getMessage());
      return Exit.SOURCE;
    }
    if (e instanceof UsageException || e instanceof UnknownNameException) {
      err.println(e.getMessage());
      return Exit.USAGE;
    }
    err.println("This is a fault of the program itself; please report it with what follows.");
    e.printStackTrace(err);
    return Exit.FAULT;
  }

  @Override
  public void run() {
    spec.commandLine().usage(spec.commandLine().getOut());
  }
}
