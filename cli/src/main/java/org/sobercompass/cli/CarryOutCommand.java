package org.sobercompass.cli;

import java.io.PrintWriter;
import java.nio.file.Path;
import java.time.Clock;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.Callable;
import org.jspecify.annotations.Nullable;
import org.sobercompass.core.amendment.Amendment;
import org.sobercompass.core.amendment.AmendmentRecord;
import org.sobercompass.core.amendment.Carrying;
import org.sobercompass.core.amendment.Journal;
import org.sobercompass.core.amendment.LiveTarget;
import org.sobercompass.core.amendment.Rehearsal;
import org.sobercompass.core.amendment.Standing;
import org.sobercompass.core.amendment.Work;
import org.sobercompass.core.problem.Spelling;
import org.sobercompass.report.answers.AmendmentAnswers;
import org.sobercompass.report.data.AnswerTable;
import org.sobercompass.report.data.AnswerTableWriter;
import org.sobercompass.report.data.Format;
import org.sobercompass.sources.Collecting;
import org.sobercompass.sources.Secret;
import org.sobercompass.sources.TargetKind;
import org.sobercompass.sources.TargetKinds;
import org.sobercompass.sources.amendment.AmendmentFolder;
import org.sobercompass.sources.amendment.JournalFile;
import org.sobercompass.sources.workspace.WorkspaceTargetKind;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;

/** {@code sober carry-out}. */
@Command(
    name = "carry-out",
    mixinStandardHelpOptions = true,
    description = {
      "Carries an amendment out on a live system, or takes it back. Without --write it only asks"
          + " the",
      "system whether everything still stands as it was read, and changes nothing.",
      "After an interruption the same command resumes.",
      ""
    },
    footer = {
      "",
      "Examples:",
      "  sober carry-out amendments/leave    what is in it, and how far it is carried out",
      "  sober carry-out amendments/leave --on workspace --write",
      "  sober carry-out amendments/leave --at ldaps://directory.example \\",
      "      --as cn=editor,dc=example",
      "  sober carry-out amendments/leave --at ldaps://directory.example \\",
      "      --as cn=editor,dc=example --write",
      "  sober carry-out amendments/leave --at ldaps://directory.example \\",
      "      --as cn=editor,dc=example --undo --write"
    })
final class CarryOutCommand implements Callable<Integer> {
  private static final int EVERY = 500;

  @Spec private CommandSpec spec = CommandSpec.create();

  @Parameters(index = "0", paramLabel = "FOLDER", description = "the amendment")
  private Path folder = Path.of("");

  @Option(
      names = "--on",
      paramLabel = "SYSTEM",
      description = "the system to change (default: the only one)")
  private @Nullable String on;

  @Option(
      names = "--at",
      paramLabel = "WHERE",
      description = "where it is: ldaps://HOST, HOST:PORT/DATABASE, or a folder")
  private @Nullable String at;

  @Mixin private SignIn signIn = new SignIn();

  @Option(names = "--write", description = "change the system")
  private boolean write;

  @Option(names = "--undo", description = "take back what was made here")
  private boolean undo;

  @Option(
      names = "--accept-loss",
      description = "also make what can never be taken back whole, such as deleting an account")
  private boolean acceptLoss;

  @Option(
      names = "--record",
      split = ",",
      paramLabel = "N",
      description = "only this record; can be repeated, and N- means from N on")
  private List<String> numbers = new ArrayList<>();

  @Option(names = "--go-on", description = "do not stop at a record that cannot be made")
  private boolean goOn;

  @Option(
      names = {"-w", "--workspace"},
      paramLabel = "DIR",
      description = "the workspace, where its files are changed (default: this folder)")
  private Path root = Path.of("");

  @Option(
      names = {"-f", "--format"},
      paramLabel = "FORMAT",
      description = "table, csv, json or jsonl (default: table)")
  private Format format = Format.table;

  @Override
  public Integer call() {
    AmendmentFolder amendment = AmendmentFolder.read(folder);
    AmendmentAnswers answers =
        new AmendmentAnswers(
            amendment.amendment(),
            TargetKinds.losses(amendment.amendment(), amendment.amendment().records()));
    if (at == null && on == null && !write && !undo) {
      Map<String, Journal> journals = new HashMap<>();
      for (Amendment.Target target : amendment.amendment().targets()) {
        journals.put(target.name(), JournalFile.look(amendment, target.name()));
      }
      print(answers.all(journals));
      return Exit.OK;
    }
    Amendment.Target target = target(amendment.amendment());
    List<AmendmentRecord> records = chosen(amendment.amendment().of(target.name()));
    refuseLosses(amendment, target, records);
    try (LiveTarget live = open(target)) {
      PrintWriter err = spec.commandLine().getErr();
      err.println(
          "Connected to "
              + target.name()
              + " at "
              + live.reached()
              + ", as "
              + live.identity()
              + ".");
      refuseOthers(target, live.identity());
      return write
          ? work(amendment, target, live, records, answers)
          : rehearse(amendment, target, live, records, answers);
    }
  }

  /** What can never be taken back whole is made only where that was accepted. */
  private void refuseLosses(
      AmendmentFolder amendment, Amendment.Target target, List<AmendmentRecord> records) {
    Journal journal = JournalFile.look(amendment, target.name());
    List<AmendmentRecord> wanted =
        records.stream()
            .filter(record -> journal.state(record.number()).isOurs() == undo)
            .map(record -> undo ? record.inverse() : record)
            .toList();
    List<String> losses = TargetKinds.losses(amendment.amendment(), wanted);
    if (write && !acceptLoss && !losses.isEmpty()) {
      throw new UsageException(
          losses.get(0)
              + (losses.size() > 1 ? "; and so on, " + losses.size() + " in all" : "")
              + "; nothing was changed; expected --accept-loss where that is meant");
    }
  }

  private Amendment.Target target(Amendment amendment) {
    List<String> names = amendment.targets().stream().map(Amendment.Target::name).toList();
    String which = on;
    if (which == null) {
      if (names.size() == 1) {
        return amendment.targets().get(0);
      }
      throw new UsageException(
          names.isEmpty()
              ? "the amendment changes no system"
              : "which system is meant is not said; expected --on " + String.join(" or ", names));
    }
    return amendment
        .target(which)
        .orElseThrow(
            () ->
                new UsageException(
                    "the amendment does not change "
                        + which
                        + "; expected "
                        + String.join(" or ", names)
                        + Spelling.hint(which, names)));
  }

  /** The records asked for, in their order. */
  private List<AmendmentRecord> chosen(List<AmendmentRecord> all) {
    if (numbers.isEmpty()) {
      return all;
    }
    List<AmendmentRecord> chosen = new ArrayList<>();
    for (String number : numbers) {
      if (!number.matches("[1-9][0-9]{0,8}-?")) {
        throw new UsageException(
            "--record " + number + "; expected a number, or N- for all from N");
      }
    }
    for (AmendmentRecord record : all) {
      for (String number : numbers) {
        boolean from = number.endsWith("-");
        int n = Integer.parseInt(from ? number.substring(0, number.length() - 1) : number);
        if (record.number() == n || (from && record.number() > n)) {
          chosen.add(record);
          break;
        }
      }
    }
    if (chosen.isEmpty()) {
      throw new UsageException("--record: there is no such record of this system");
    }
    return chosen;
  }

  private LiveTarget open(Amendment.Target target) {
    TargetKind kind =
        TargetKinds.of(target.kind())
            .orElseThrow(
                () ->
                    new UsageException("a system of kind " + target.kind() + " is not known here"));
    try {
      return kind.open(
          new TargetKind.Door(
              target.name(),
              where(target),
              signIn.as(),
              signIn.secret(),
              signIn.plain(),
              signIn.authority()),
          Secret.Origins.PROCESS);
    } catch (Collecting.Mistyped e) {
      throw new UsageException(e.words());
    }
  }

  /** Where the system is; a workspace is where the option for it says. */
  private String where(Amendment.Target target) {
    if (at != null) {
      return at;
    }
    return target.kind().equals(WorkspaceTargetKind.ID) ? root.toString() : "";
  }

  private static void refuseOthers(Amendment.Target target, String identity) {
    target
        .as()
        .filter(planned -> !isSame(planned, identity))
        .ifPresent(
            planned -> {
              throw new UsageException(
                  target.name()
                      + " is to be changed as "
                      + planned
                      + ", and the system knows us as "
                      + identity
                      + "; nothing was asked or changed");
            });
  }

  /** An authorization identity (RFC 4513 section 5.2.1.8) has its kind before it. */
  private static boolean isSame(String planned, String identity) {
    String plain = identity.replaceFirst("^dn:", "");
    return planned.equalsIgnoreCase(identity)
        || plain
            .replaceAll("\\s*([,=])\\s*", "$1")
            .equalsIgnoreCase(planned.replaceAll("\\s*([,=])\\s*", "$1"));
  }

  private int rehearse(
      AmendmentFolder amendment,
      Amendment.Target target,
      LiveTarget live,
      List<AmendmentRecord> records,
      AmendmentAnswers answers) {
    Journal journal = JournalFile.look(amendment, target.name());
    List<AmendmentRecord> asked =
        undo
            ? records.stream()
                .filter(record -> journal.state(record.number()).isOurs())
                .map(AmendmentRecord::inverse)
                .toList()
            : records;
    Rehearsal rehearsal = Rehearsal.of(live, asked);
    print(answers.rehearsal(target.name(), rehearsal, undo));
    if (rehearsal.count(Standing.BEFORE) > 0) {
      spec.commandLine().getErr().println("Nothing is changed yet; --write does it.");
    }
    return rehearsal.count(Standing.OTHER) == 0 ? Exit.OK : Exit.NO;
  }

  private int work(
      AmendmentFolder amendment,
      Amendment.Target target,
      LiveTarget live,
      List<AmendmentRecord> records,
      AmendmentAnswers answers) {
    try (JournalFile file = JournalFile.open(amendment, target.name())) {
      Journal journal = new Journal(file.before(), file);
      Carrying carrying =
          new Carrying(
              live, journal, Clock.systemUTC(), goOn, done -> progress(done, records.size()));
      Work work = undo ? carrying.undo(records) : carrying.carryOut(records);
      print(answers.work(target.name(), work, records, journal, undo));
      return work.isWhole() ? Exit.OK : work.failed().isEmpty() ? Exit.SOURCE : Exit.NO;
    }
  }

  private void progress(int done, int all) {
    if (done % EVERY == 0 && all > EVERY) {
      spec.commandLine().getErr().println(done + " of " + all + " records");
    }
  }

  private void print(AnswerTable table) {
    AnswerTableWriter.write(
        table, format, Terminal.width(), Terminal.colour(), spec.commandLine().getOut());
  }
}
