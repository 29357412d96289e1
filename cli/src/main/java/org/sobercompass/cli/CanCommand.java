package org.sobercompass.cli;

import java.nio.file.Path;
import java.util.concurrent.Callable;
import org.jspecify.annotations.Nullable;
import org.sobercompass.core.admin.Asked;
import org.sobercompass.core.system.Verdict;
import org.sobercompass.organization.Organization;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** {@code sober can}. */
@Command(
    name = "can",
    mixinStandardHelpOptions = true,
    description = "Tells whether an account can do something somewhere: yes, no or undecided.",
    footer = {
      "",
      "Examples, on the demo:",
      "  sober can tova.quill permits:permits:issue --at vault",
      "  sober can joss.merrin orders:orders:raise",
      "  sober can hpine fernstore:read+write --at /srv/fernhollow/minutes",
      "  sober can nlarkin set-password --on wmarsh",
      "  sober can nlarkin write=telephoneNumber --on tquill",
      "  sober can --questions questions.csv --why",
      "Exit code 0 for yes, 1 for no, 6 for undecided.",
      "Questions are CSV with the columns account,permission,node, or JSON lines with the same",
      "names; - reads standard input. Answers come in the order asked. For an admin action, or a"
          + " single right",
      "(write=, read=, right=, create=, delete-child=, do=), the column node names the object."
    })
final class CanCommand implements Callable<Integer> {
  @Mixin private Inputs inputs = new Inputs();

  @Parameters(
      index = "0",
      arity = "0..1",
      paramLabel = "ACCOUNT",
      description = "login, mail, name, DN or id")
  private @Nullable String account;

  @Parameters(
      index = "1",
      arity = "0..1",
      paramLabel = "PERMISSION",
      description = "application:area:level, or an admin action")
  private @Nullable String permission;

  @Option(names = "--at", paramLabel = "NODE", description = "the node (default: the top)")
  private String at = "";

  @Option(
      names = "--on",
      paramLabel = "OBJECT",
      description = "for an admin action: the account, group, unit or other object")
  private @Nullable String on;

  @Option(
      names = "--to",
      paramLabel = "OBJECT",
      description = "for a move: the organizational unit to move it to")
  private @Nullable String to;

  @Option(
      names = "--questions",
      paramLabel = "FILE",
      description = "a file with many questions; - reads standard input")
  private @Nullable String questions;

  @Option(names = "--why", description = "with --questions: also the reason for each answer")
  private boolean why;

  @Override
  public Integer call() {
    if (questions != null) {
      return new CanBatch(inputs, why).run(questions.equals("-") ? null : Path.of(questions));
    }
    if (account == null || permission == null) {
      throw new UsageException(
          "expected an account and a permission, as in: sober can ilse.brandt"
              + " orders:payments:sign");
    }
    if (on == null && permission.indexOf(':') < 0) {
      throw new UsageException(
          "expected --on and an object, as in: sober can wim.ferris set-password --on ilse.brandt");
    }
    int who = inputs.names().account(account);
    Asked asked = inputs.names().asked(permission, on == null ? at : on, to == null ? "" : to);
    inputs.print(inputs.answers().can(who, asked, inputs.isTable()));
    Organization organization = inputs.organization();
    Verdict verdict = organization.can(organization.account(who), asked).verdict();
    return verdict == Verdict.YES ? Exit.OK : verdict == Verdict.NO ? Exit.NO : Exit.UNDECIDED;
  }
}
