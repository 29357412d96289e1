package org.sobercompass.cli;

import java.io.PrintWriter;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.concurrent.Callable;
import org.sobercompass.core.problem.Gap;
import org.sobercompass.report.answers.AnswerContext;
import org.sobercompass.report.answers.FindingAnswers;
import org.sobercompass.report.data.AnswerTable;
import org.sobercompass.report.data.AnswerTableWriter;
import org.sobercompass.report.data.Format;
import org.sobercompass.sources.Secret;
import org.sobercompass.sources.directory.DirectoryKind;
import org.sobercompass.sources.live.LdapAccess;
import org.sobercompass.sources.live.LdapSession;
import org.sobercompass.sources.live.Probe;
import org.sobercompass.sources.live.RootEntry;
import org.sobercompass.sources.live.SettingsProposal;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;

/** {@code sober probe}. */
@Command(
    name = "probe",
    mixinStandardHelpOptions = true,
    description = {
      "Asks a directory server what it is, and proposes the settings that fit it.",
      "Each proposal says how many entries it would bring in.",
      ""
    },
    footer = {
      "",
      "Examples:",
      "  sober probe ldaps://directory.alderfen.example",
      "  sober probe ldap://127.0.0.1:3890 --plain --bind cn=reader,dc=alderfen,dc=example \\",
      "      --password-env ALDERFEN_PASSWORD",
      "  sober probe ldaps://directory.alderfen.example --name staff --write"
    })
final class ProbeCommand implements Callable<Integer> {
  private static final Map<String, String> OFFERED =
      new TreeMap<>(
          Map.of(
              "2.16.840.1.113730.3.4.2", "entries as stored",
              "1.3.6.1.1.12", "assertions",
              "1.2.840.113556.1.4.473", "sorting",
              "1.2.840.113556.1.4.801", "access control lists on request"));

  @Spec private CommandSpec spec = CommandSpec.create();
  @Mixin private Connection connection = new Connection();

  @Parameters(index = "0", paramLabel = "ADDRESS", description = "ldaps://host or ldap://host")
  private String address = "";

  @Option(
      names = {"-w", "--workspace"},
      paramLabel = "DIR",
      description = "the workspace to write into (default: this folder)")
  private Path root = Path.of("");

  @Option(names = "--write", description = "write the proposal into the workspace")
  private boolean write;

  @Option(
      names = {"-f", "--format"},
      paramLabel = "FORMAT",
      description = "table, csv, json or jsonl (default: table)")
  private Format format = Format.table;

  @Override
  public Integer call() {
    LdapAccess access = connection.access(address);
    SettingsProposal proposal;
    try (LdapSession session = LdapSession.open(access, Secret.Origins.PROCESS)) {
      proposal = new Probe(session).propose();
    }
    PrintWriter out = spec.commandLine().getOut();
    AnswerTable sheet = sheet(proposal);
    AnswerTableWriter.write(
        format == Format.table ? brief(sheet) : sheet,
        format,
        Terminal.width(),
        Terminal.colour(),
        out);
    List<String> lines = directory(proposal);
    if (format == Format.table) {
      typed(proposal, out);
      section("For compass.yaml, under directories:", lines, out);
      section("For an application that sees all of these, in its file:", sight(proposal), out);
    }
    if (write) {
      Optional<Path> file = WorkspaceText.add(root, connection.name, lines);
      out.flush();
      PrintWriter err = spec.commandLine().getErr();
      if (file.isPresent()) {
        err.println("Written to " + file.get() + ". Next: sober survey, then sober check.");
      } else {
        err.println(
            root.resolve("compass.yaml")
                + " is written in a way that cannot be edited safely; it was left as it is. Put"
                + " these lines under directories: yourself.");
        lines.forEach(line -> err.println("  " + line));
        return Exit.INPUT;
      }
    } else if (format == Format.table) {
      out.println();
      out.println("With --write this goes into the workspace. Then: sober survey, sober check.");
    }
    return proposal.accounts().accounts() > 0 ? Exit.OK : Exit.NO;
  }

  private AnswerTable sheet(SettingsProposal p) {
    SettingsProposal.Counts counts = p.accounts();
    AnswerTable.Builder sheet =
        AnswerTable.of("probe/1", "setting", "value", "entries", "of", "unique", "example", "else")
            .heading(
                p.access().address()
                    + " is a directory (kind: "
                    + p.kind()
                    + ") with "
                    + AnswerContext.count(counts.accounts(), "account", "accounts")
                    + ", "
                    + AnswerContext.count(counts.groups(), "group", "groups")
                    + " and "
                    + AnswerContext.count(
                        counts.units(), "organizational unit", "organizational units")
                    + ".")
            .fact("signed in as", p.identity())
            .fact("connection", p.access().tls().words())
            .fact("naming contexts", String.join(" | ", p.root().contexts()))
            .fact("entries read", p.looked() + (p.all() ? " (all)" : " (there are more)"));
    sheet.fact(
        "schema",
        p.schema()
            .map(s -> s.attributeTypes() + " attribute types, " + s.objectClasses() + " classes")
            .orElse("not readable, so the usual attribute types are used"));
    sheet.fact("offers", offers(p.root()));
    p.root().vendor().ifPresent(vendor -> sheet.fact("server", vendor));
    sheet.row(
        "account bases",
        String.join(" | ", p.bases().accounts()),
        counts.accounts(),
        p.looked(),
        true,
        "",
        "");
    sheet.row(
        "group bases",
        String.join(" | ", p.bases().groups()),
        counts.groups(),
        p.looked(),
        true,
        "",
        "");
    for (SettingsProposal.Setting s : p.settings()) {
      sheet.row(
          s.name(),
          s.value().isEmpty() ? "none found" : s.value(),
          s.entries(),
          s.of(),
          s.unique(),
          printable(s.example()),
          String.join(", ", s.others()));
    }
    notes(p, sheet);
    return sheet.build();
  }

  /** What it can do that matters here, in words, and how many controls there are besides. */
  private static String offers(RootEntry root) {
    List<String> words = new ArrayList<>();
    words.add(root.pages() ? "paged results" : "no paged results");
    OFFERED.forEach(
        (oid, name) -> words.addAll(root.controls().contains(oid) ? List.of(name) : List.of()));
    return String.join(", ", words) + " (of " + root.controls().size() + " controls)";
  }

  /** The same for a terminal: what else would do is left to the other formats. */
  private static AnswerTable brief(AnswerTable full) {
    AnswerTable.Builder sheet =
        AnswerTable.of("probe-brief/1", "setting", "value", "fits", "as in")
            .heading(full.heading());
    full.facts().forEach(sheet::fact);
    for (List<Object> row : full.rows()) {
      sheet.row(row.get(0), row.get(1), row.get(2) + " of " + row.get(3), row.get(5));
    }
    full.notes().forEach(sheet::note);
    return sheet.build();
  }

  private static void notes(SettingsProposal p, AnswerTable.Builder sheet) {
    if (p.accounts().accounts() == 0) {
      sheet.note(
          p.identity()
              + " sees no account: is it allowed to read them? Try --bind, or another"
              + " --base.");
    }
    if (p.hidden() > 0) {
      sheet.note(
          p.identity()
              + " may not see the members of "
              + p.hidden()
              + " of "
              + AnswerContext.count(p.accounts().groups(), "group", "groups")
              + ": what depends on them will be undecided. Read as somebody who may.");
    }
    if (!p.kind().equals(DirectoryKind.AD.id())) {
      sheet.note(FindingAnswers.capital(Gap.rules(List.of(p.access().name())).words()) + ".");
    }
    if (!p.root().pages()) {
      sheet.note("The server has no paged results; its size limit must be above its entries.");
    }
    if (p.access().tls() == LdapAccess.Tls.PLAIN) {
      sheet.note(
          p.access().bindDn().isPresent()
              ? "The connection is not protected: the password is sent in clear."
              : "The connection is not protected: what is read is sent in clear.");
    }
    for (SettingsProposal.Setting s : p.settings()) {
      if (s.name().equals("login name") && !s.unique() && s.entries() > 0) {
        sheet.note(s.value() + " is not unique: two accounts would have one login name.");
      }
    }
  }

  private static String printable(String example) {
    boolean binary = example.chars().anyMatch(c -> Character.isISOControl(c) || c == 0xfffd);
    return binary ? "(binary)" : example;
  }

  /** What an application's own administrator has to type. */
  private static void typed(SettingsProposal p, PrintWriter out) {
    List<String> lines = new ArrayList<>();
    lines.add("search base for users:   " + String.join("  or  ", p.bases().accounts()));
    lines.add("user filter:             " + value(p, "account filter"));
    lines.add(
        "user name attribute:     "
            + value(p, "login name")
            + p.setting("login name")
                .filter(s -> !s.value().isEmpty())
                .map(s -> "   (as in " + s.example() + letters(p, s) + ")")
                .orElse(""));
    lines.add("search base for groups:  " + String.join("  or  ", p.bases().groups()));
    lines.add("group filter:            " + value(p, "group filter"));
    lines.add(
        "group name attribute:    "
            + value(p, "group name")
            + p.setting("group name").map(s -> "   (as in " + s.example() + ")").orElse(""));
    lines.add(
        "member attribute:        "
            + value(p, "members")
            + p.setting("members").map(s -> "   (as in " + s.example() + ")").orElse(""));
    section("The same, as the settings of an application usually call it:", lines, out);
  }

  private static String letters(SettingsProposal p, SettingsProposal.Setting login) {
    return p.matching(login)
        .map(
            m ->
                m.syntax().ignoresCase()
                    ? "; upper and lower case alike"
                    : "; exactly so, upper and lower case differ")
        .orElse("");
  }

  private static String value(SettingsProposal p, String name) {
    return p.setting(name)
        .map(SettingsProposal.Setting::value)
        .filter(v -> !v.isEmpty())
        .orElse("none");
  }

  private static void section(String title, List<String> lines, PrintWriter out) {
    out.println();
    out.println(title);
    lines.forEach(line -> out.println("  " + line));
  }

  private List<String> directory(SettingsProposal p) {
    List<String> lines = new ArrayList<>();
    lines.add(connection.name + ":");
    lines.add("  kind: " + p.kind());
    connection.yaml(address).forEach(line -> lines.add("  " + line));
    if (!connection.bases.isEmpty()) {
      lines.add("  bases: [" + quoted(connection.bases) + "]");
    }
    String login = value(p, "login name");
    boolean usual =
        DirectoryKind.of(p.kind())
            .map(kind -> kind.logins().get(0).equalsIgnoreCase(login))
            .orElse(false);
    if (!usual && !login.equals("none")) {
      lines.add("  login-attribute: " + login);
    }
    return lines;
  }

  private List<String> sight(SettingsProposal p) {
    List<String> lines = new ArrayList<>();
    lines.add("sight:");
    lines.add("  directory: " + connection.name);
    lines.add("  account-bases: [" + quoted(p.bases().accounts()) + "]");
    lines.add("  account-filter: " + Connection.quoted(value(p, "account filter")));
    lines.add("  group-bases: [" + quoted(p.bases().groups()) + "]");
    lines.add("  group-filter: " + Connection.quoted(value(p, "group filter")));
    return lines;
  }

  private static String quoted(List<String> texts) {
    return String.join(", ", texts.stream().map(Connection::quoted).toList());
  }
}
