package org.sobercompass.cli;

import java.io.PrintWriter;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Optional;
import java.util.concurrent.Callable;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.sources.database.DatabaseDoor;
import org.sobercompass.sources.files.LiveTree;
import org.sobercompass.sources.live.Secret;
import picocli.CommandLine.Command;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;

/** {@code sober collect}. */
@Command(
    name = "collect",
    mixinStandardHelpOptions = true,
    description = {
      "Collects the rights of a database or of a tree of files into one file for a workspace.",
      "Nothing is changed there. The file is written whole or not at all."
    },
    footer = {
      "",
      "Examples:",
      "  sober collect database db.example:5432/fieldbook --as reader --out fieldbook.jsonl",
      "  sober collect files /srv/notes --out notes.getfacl"
    })
final class CollectCommand implements Callable<Integer> {
  private static final Pattern ADDRESS =
      Pattern.compile("(?<host>\\[[^]]+\\]|[^:/]+)(:(?<port>[0-9]{1,5}))?/(?<database>.+)");
  private static final int USUAL_PORT = 5432;

  @Spec private @Nullable CommandSpec spec;

  @Parameters(index = "0", paramLabel = "WHAT", description = "database or files")
  private String what = "";

  @Parameters(
      index = "1",
      paramLabel = "WHERE",
      description = "HOST:PORT/DATABASE of a PostgreSQL, or a folder")
  private String where = "";

  @Option(
      names = {"-o", "--out"},
      required = true,
      paramLabel = "FILE",
      description = "where to write; a file that is there is replaced")
  private @Nullable Path out;

  @Option(names = "--as", paramLabel = "ROLE", description = "as whom to sign in to the database")
  private @Nullable String role;

  @Option(
      names = "--password-env",
      paramLabel = "NAME",
      description = "the environment variable with the password")
  private @Nullable String environment;

  @Option(
      names = "--password-file",
      paramLabel = "FILE",
      description = "the file with the password in its first line")
  private @Nullable Path file;

  @Option(
      names = "--ca",
      paramLabel = "FILE",
      description = "the certificate that signs the server's")
  private @Nullable Path authority;

  @Option(names = "--plain", description = "no TLS needed: what is read may cross in clear")
  private boolean plain;

  @Override
  public Integer call() {
    return switch (what) {
      case "database" -> database();
      case "files" -> files();
      default ->
          throw new UsageException(
              "cannot collect " + Problem.quote(what) + "; expected database or files");
    };
  }

  private PrintWriter printer() {
    return java.util.Objects.requireNonNull(spec).commandLine().getOut();
  }

  private Path target() {
    return java.util.Objects.requireNonNull(out);
  }

  private int database() {
    Matcher address = ADDRESS.matcher(where);
    if (!address.matches()) {
      throw new UsageException(
          Problem.quote(where) + " is no address of a database; expected HOST:PORT/DATABASE");
    }
    if (role == null) {
      throw new UsageException("as whom to sign in is not said; expected --as ROLE");
    }
    Optional<Secret> secret =
        environment != null
            ? Optional.of(new Secret.Environment(environment))
            : Optional.ofNullable(file).map(Secret.File::new);
    String port = address.group("port");
    DatabaseDoor door =
        new DatabaseDoor(
            address.group("host"),
            port == null ? USUAL_PORT : Integer.parseInt(port),
            address.group("database"),
            role,
            secret,
            plain,
            Optional.ofNullable(authority));
    int lines = door.collect(target(), Secret.Origins.PROCESS);
    printer()
        .println(
            "Collected "
                + lines
                + " roles, memberships, objects and defaults of "
                + address.group("database")
                + " into "
                + out
                + ".");
    return Exit.OK;
  }

  private int files() {
    Path folder = Path.of(where);
    if (!Files.isDirectory(folder)) {
      throw new UsageException(where + " is no folder; expected one on this host");
    }
    LiveTree.Collected collected = LiveTree.collect(folder, target(), LiveTree.tool());
    printer()
        .println(
            "Collected "
                + collected.paths()
                + " paths into "
                + out
                + "; "
                + collected.links()
                + " symbolic links not followed, "
                + collected.unread()
                + " paths whose list could not be read.");
    if (!collected.lists()) {
      printer()
          .println(
              "There is no getfacl on this host, so only modes were read; what a list behind them"
                  + " could change stays undecided.");
    }
    return Exit.OK;
  }
}
