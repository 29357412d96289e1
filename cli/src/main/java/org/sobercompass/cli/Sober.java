package org.sobercompass.cli;

import java.io.PrintWriter;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.concurrent.atomic.AtomicReference;
import java.util.function.Consumer;
import java.util.function.Supplier;
import org.sobercompass.core.problem.OutsideException;
import picocli.CommandLine;
import picocli.CommandLine.Command;
import picocli.CommandLine.Help.Ansi;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.ParseResult;

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
    COMMANDS.put("waive", WaiveCommand::new);
    COMMANDS.put("assign", AssignCommand::new);
    COMMANDS.put("withdraw", WithdrawCommand::new);
    COMMANDS.put("include", IncludeCommand::new);
    COMMANDS.put("except", ExceptCommand::new);
    COMMANDS.put("enrol", EnrolCommand::new);
    COMMANDS.put("redefine", RedefineCommand::new);
    COMMANDS.put("preview", PreviewCommand::new);
    COMMANDS.put("propose", ProposeCommand::new);
    COMMANDS.put("unpick", UnpickCommand::new);
    COMMANDS.put("amend", AmendCommand::new);
    COMMANDS.put("carry-out", CarryOutCommand::new);
    COMMANDS.put("read-back", ReadBackCommand::new);
    COMMANDS.put("expect", ExpectCommand::new);
    COMMANDS.put("fit", FitCommand::new);
    COMMANDS.put("report", ReportCommand::new);
    COMMANDS.put("draw", DrawCommand::new);
    COMMANDS.put("review", ReviewCommand::new);
    COMMANDS.put("match", MatchCommand::new);
    COMMANDS.put("carry", CarryCommand::new);
    COMMANDS.put("evidence", EvidenceCommand::new);
  }

  @CommandLine.Spec private CommandSpec spec = CommandSpec.create();

  /** Runs and ends the process with the exit code: 5 for whatever goes wrong in the program. */
  public static void main(String[] args) {
    int code = Exit.FAULT;
    PrintWriter err = Output.error();
    // What ends a thread of a library is mostly told by the command that waits for it, and once.
    AtomicReference<Throwable> elsewhere = new AtomicReference<>();
    Thread.setDefaultUncaughtExceptionHandler((thread, e) -> elsewhere.compareAndSet(null, e));
    try {
      PrintWriter out = Output.standard();
      code = run(out, err, args);
      out.flush();
    } catch (Output.Closed e) {
      code = Exit.SOURCE;
    } catch (OutsideException e) {
      err.println(e.getMessage());
      code = Exit.SOURCE;
    } catch (Throwable e) { // what Java itself cannot do must not end as 1, which means no
      code = Fault.tell(e, err);
    } finally {
      Throwable untold = elsewhere.get();
      if (untold != null && (code == Exit.OK || code == Exit.NO)) {
        code = Fault.tell(untold, err);
      }
      Runtime.getRuntime().exit(code);
    }
  }

  /** Runs one command and returns the exit code; for tests and for commands that run others. */
  static int run(PrintWriter out, PrintWriter err, String... args) {
    if (args.length == 0) {
      CommandLine all = headings();
      all.setUsageHelpWidth(Terminal.helpWidth()).usage(err);
      return Exit.USAGE;
    }
    CommandLine line = COMMANDS.containsKey(args[0]) ? commands(args[0]) : headings();
    line.setOut(out).setErr(err).setUsageHelpWidth(Terminal.helpWidth());
    line.setColorScheme(CommandLine.Help.defaultColorScheme(Ansi.OFF));
    line.setCaseInsensitiveEnumValuesAllowed(true);
    line.setExecutionExceptionHandler(
        (e, command, parsed) -> {
          each(line, Inputs::wipe);
          return Fault.tell(e, err);
        });
    int code = line.execute(args);
    out.flush();
    each(line, Inputs::end);
    return code;
  }

  /** Whatever was typed with inputs. */
  private static void each(CommandLine line, Consumer<Inputs> what) {
    for (ParseResult at = line.getParseResult(); at != null; at = at.subcommand()) {
      for (CommandSpec mixin : at.commandSpec().mixins().values()) {
        if (mixin.userObject() instanceof Inputs inputs) {
          what.accept(inputs);
        }
      }
    }
  }

  /** The command with what each of the others is for: enough to list them, and sooner there. */
  private static CommandLine headings() {
    CommandLine line = new CommandLine(new Sober());
    COMMANDS.forEach(
        (name, command) -> {
          CommandSpec heading = CommandSpec.create().name(name);
          Command said = command.get().getClass().getAnnotation(Command.class);
          heading.usageMessage().description(said.description());
          line.addSubcommand(name, heading);
        });
    return line;
  }

  /** The command with the one that was typed, or with all when it is none of them. */
  static CommandLine commands(String typed) {
    CommandLine line = new CommandLine(new Sober());
    boolean one = COMMANDS.containsKey(typed);
    COMMANDS.forEach(
        (name, command) -> {
          if (!one || name.equals(typed)) {
            line.addSubcommand(name, command.get());
          }
        });
    return line;
  }

  @Override
  public void run() {
    spec.commandLine().usage(spec.commandLine().getOut());
  }
}
