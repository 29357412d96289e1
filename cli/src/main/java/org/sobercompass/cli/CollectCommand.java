package org.sobercompass.cli;

import java.nio.file.Path;
import java.util.List;
import java.util.Objects;
import java.util.ServiceLoader;
import java.util.concurrent.Callable;
import org.jspecify.annotations.Nullable;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.sources.Collecting;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;

/** {@code sober collect}. */
@Command(
    name = "collect",
    mixinStandardHelpOptions = true,
    description = {
      "Reads the rights in a database, a tree of files or a share into one file for a workspace.",
      "Nothing is changed there."
    },
    footer = {
      "",
      "Examples:",
      "  sober collect database db.example:5432/fieldbook --as reader --out fieldbook.jsonl",
      "  sober collect files /srv/notes --out notes.getfacl",
      "  sober collect share smb://files.example/field --as reader --out fieldshare.jsonl"
    })
final class CollectCommand implements Callable<Integer> {
  @Spec private @Nullable CommandSpec spec;

  @Parameters(index = "0", paramLabel = "WHAT", description = "database, files or share")
  private String what = "";

  @Parameters(
      index = "1",
      paramLabel = "WHERE",
      description = "HOST:PORT/DATABASE of a PostgreSQL server, a folder, or smb://HOST/SHARE")
  private String where = "";

  @Option(
      names = {"-o", "--out"},
      required = true,
      paramLabel = "FILE",
      description = "the file to write; an existing one is replaced")
  private @Nullable Path out;

  @Mixin private SignIn signIn = new SignIn();

  @Override
  public Integer call() {
    List<Collecting> all =
        ServiceLoader.load(Collecting.class).stream().map(ServiceLoader.Provider::get).toList();
    List<String> words = all.stream().map(Collecting::id).toList();
    Collecting chosen =
        all.stream()
            .filter(one -> one.id().equals(what))
            .findFirst()
            .orElseThrow(
                () ->
                    new UsageException(
                        "cannot collect "
                            + Problem.quote(what)
                            + "; expected "
                            + String.join(" or ", words)));
    try {
      chosen
          .collect(
              new Collecting.Request(
                  where,
                  Objects.requireNonNull(out),
                  signIn.as(),
                  signIn.secret(),
                  signIn.plain(),
                  signIn.authority()))
          .forEach(Objects.requireNonNull(spec).commandLine().getOut()::println);
    } catch (Collecting.Mistyped e) {
      throw new UsageException(e.words());
    }
    return Exit.OK;
  }
}
