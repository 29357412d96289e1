package org.sobercompass.cli;

import java.util.List;
import java.util.Optional;
import java.util.concurrent.Callable;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.admin.Asked;
import org.sobercompass.core.filter.Truth;
import org.sobercompass.core.readiness.ReadinessCheck;
import org.sobercompass.report.answers.AskedAnswers;
import org.sobercompass.report.answers.TrialAnswers;
import org.sobercompass.report.data.AnswerTable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** {@code sober trial}. */
@Command(
    name = "trial",
    mixinStandardHelpOptions = true,
    description = {
      "Tells step by step whether an account can sign in and what it could do then.",
      "Nobody signs in: it is computed.",
      ""
    },
    footer = {
      "",
      "Examples, on the demo:",
      "  sober trial joss.merrin orders",
      "  sober trial oskar.lund            in all applications",
      "  sober trial --all seedbook        of everybody who is given something",
      "  sober trial ilse.brandt orders --from vault-desk-2",
      "  sober trial nlarkin --act set-password --on wmarsh"
    })
final class TrialCommand implements Callable<Integer> {
  @Mixin private Inputs inputs = new Inputs();

  @Parameters(index = "0..1", arity = "0..2", paramLabel = "ACCOUNT [APPLICATION]")
  private List<String> names = List.of();

  @Option(names = "--all", description = "all accounts; then the application may be named")
  private boolean all;

  @Option(names = "--from", paramLabel = "HOST", description = "the host it would sign in from")
  private @Nullable String from;

  @Option(
      names = "--act",
      paramLabel = "ACTION",
      description = "an admin action instead of an application")
  private @Nullable String act;

  @Option(names = "--on", paramLabel = "OBJECT", description = "with --act: to what")
  private @Nullable String on;

  @Override
  public Integer call() {
    inputs.open(ReadinessCheck.NEEDS);
    if (act != null) {
      return act(act, on);
    }
    TrialAnswers answers = new TrialAnswers(inputs.ask(), Optional.ofNullable(from));
    if (all) {
      List<Integer> accounts =
          IntStream.range(0, inputs.model().facts().accounts()).boxed().toList();
      all(answers, inputs.applications(names.isEmpty() ? "" : names.get(0)), accounts);
      return Exit.OK;
    }
    if (names.isEmpty()) {
      throw new UsageException("expected an account, as in: sober trial joss.merrin orders");
    }
    int account = inputs.names().account(names.get(0));
    if (names.size() == 1) {
      all(answers, inputs.model().systems(), List.of(account));
      return Exit.OK;
    }
    return one(answers, inputs.names().application(names.get(1)), account);
  }

  private void all(TrialAnswers answers, List<SystemView> views, List<Integer> accounts) {
    inputs.print(
        inputs.isTable() ? answers.allBrief(views, accounts) : answers.all(views, accounts));
  }

  private int one(TrialAnswers answers, SystemView view, int account) {
    inputs.print(answers.one(view, account));
    if (inputs.isTable()) {
      after(answers.rights(view, account));
      AnswerTable shortfall = answers.shortfall(view, account);
      if (!shortfall.rows().isEmpty()) {
        after(shortfall);
      }
    }
    Truth ready = answers.ready(view, account);
    return ready == Truth.TRUE ? Exit.OK : ready == Truth.FALSE ? Exit.NO : Exit.UNDECIDED;
  }

  private int act(String word, @Nullable String object) {
    if (names.size() != 1 || object == null) {
      throw new UsageException(
          "expected an account, --act and --on, as in:"
              + " sober trial nlarkin --act set-password --on wmarsh");
    }
    int account = inputs.names().account(names.get(0));
    Asked.Act asked = (Asked.Act) inputs.names().asked(word, object);
    Optional<String> host = Optional.ofNullable(from);
    AskedAnswers answers = inputs.answers();
    inputs.print(answers.trial(account, asked, host));
    Truth ready = answers.ready(account, asked, host);
    return ready == Truth.TRUE ? Exit.OK : ready == Truth.FALSE ? Exit.NO : Exit.UNDECIDED;
  }

  private void after(AnswerTable sheet) {
    inputs.out().println();
    inputs.print(
        new AnswerTable(
            sheet.schema(),
            sheet.heading(),
            java.util.Map.of(),
            sheet.columns(),
            sheet.rows(),
            List.of()));
  }
}
