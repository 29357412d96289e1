package org.sobercompass.cli;

import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.time.format.DateTimeParseException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.Callable;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.core.key.Key;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.report.answers.FindingAnswers;
import org.sobercompass.sources.disk.OwnFiles;
import org.sobercompass.sources.text.Node;
import org.sobercompass.sources.text.TextFiles;
import org.sobercompass.sources.text.YamlReader;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** {@code sober waive}. */
@Command(
    name = "waive",
    mixinStandardHelpOptions = true,
    description =
        "Accepts a finding until a given day, for those it concerns now: writes a waiver.",
    footer = {
      "",
      "Example, on the demo:",
      "  sober waive m8za0f --by \"Maren Holt\" --reason \"two signatures on paper\" \\",
      "      --until 2027-01-31"
    })
final class WaiveCommand implements Callable<Integer> {
  private static final String USUAL = "waivers.yaml";
  private static final String MAIN = "compass.yaml";
  private static final long LARGEST = 16L << 20;
  private static final Pattern ITEM = Pattern.compile("(?m)^( *)- ");

  @Mixin private Inputs inputs = new Inputs();

  @Parameters(index = "0", paramLabel = "ID", description = "the finding, as findings lists it")
  private String id = "";

  @Option(names = "--by", required = true, paramLabel = "WHO", description = "who accepts it")
  private String by = "";

  @Option(names = "--reason", required = true, paramLabel = "WHY", description = "why")
  private String reason = "";

  @Option(
      names = "--until",
      required = true,
      paramLabel = "DAY",
      description = "the last day on which it is accepted, as in 2027-01-31")
  private String until = "";

  @Override
  public Integer call() {
    if (inputs.survey != null) {
      throw new UsageException("a survey cannot be changed; expected a workspace");
    }
    LocalDate day = day();
    Finding finding = FindingsCommand.one(id, inputs.organization().findings());
    Problems problems = new Problems();
    Node main = YamlReader.read(inputs.root.resolve(MAIN), MAIN, problems).orElseGet(Node::nothing);
    String file = main.texts("waivers").stream().findFirst().orElse(USUAL);
    problems.throwIfErrors();
    List<String> lines = lines(finding, day);
    Path path = inputs.root.resolve(file);
    boolean isNew = !Files.exists(path);
    Optional<String> changed =
        isNew ? Optional.of("waivers:\n" + joined(lines, "  ")) : appended(path, file, lines);
    if (changed.isEmpty()) {
      inputs.err().println(file + " cannot be edited safely; it was left as it is. Put in:");
      inputs.err().print(joined(lines, "  "));
      return Exit.INPUT;
    }
    OwnFiles.edit(path, changed.get());
    inputs
        .out()
        .println(
            "Accepted until "
                + day
                + ", in "
                + file
                + ": "
                + FindingAnswers.capital(finding.sentence())
                + ".");
    if (main.texts("waivers").isEmpty()) {
      inputs.out().println("Put this line into " + MAIN + ": waivers: " + USUAL);
    }
    return Exit.OK;
  }

  private LocalDate day() {
    try {
      return LocalDate.parse(until);
    } catch (DateTimeParseException e) {
      throw new UsageException("--until " + until + " is no day; expected one like 2027-01-31");
    }
  }

  private List<String> lines(Finding finding, LocalDate day) {
    List<String> lines = new ArrayList<>();
    lines.add("- finding: " + Connection.quoted(finding.key().text()));
    if (finding.subjects().size() > 1) {
      lines.add("  subjects:");
      for (Key subject : finding.subjects()) {
        lines.add("    - " + Connection.quoted(subject.text()));
      }
    }
    lines.add("  accepted-by: " + Connection.quoted(by));
    lines.add("  reason: " + Connection.quoted(reason));
    lines.add("  until: " + day);
    return lines;
  }

  private static String joined(List<String> lines, String indent) {
    StringBuilder text = new StringBuilder();
    lines.forEach(line -> text.append(indent).append(line).append('\n'));
    return text.toString();
  }

  /** The file with one more at its end; empty when it would not say exactly that. */
  private static Optional<String> appended(Path path, String file, List<String> lines) {
    Problems problems = new Problems();
    String text = TextFiles.read(path, file, LARGEST, problems).orElse("");
    List<Node> before = items(text, file, problems);
    problems.throwIfErrors();
    Matcher item = ITEM.matcher(text);
    String indent = item.find() ? item.group(1) : "  ";
    String changed = (text.endsWith("\n") ? text : text + "\n") + joined(lines, indent);
    List<Node> after = items(changed, file, problems);
    List<Node> added = items("waivers:\n" + joined(lines, "  "), file, problems);
    boolean fits = problems.errors() == 0 && after.size() == before.size() + 1;
    for (int i = 0; fits && i < before.size(); i++) {
      fits = after.get(i).says().equals(before.get(i).says());
    }
    fits = fits && after.get(before.size()).says().equals(added.get(0).says());
    return fits ? Optional.of(changed) : Optional.empty();
  }

  private static List<Node> items(String text, String file, Problems problems) {
    return YamlReader.parse(text, file, problems)
        .flatMap(node -> node.get("waivers"))
        .map(Node::items)
        .orElse(List.of());
  }
}
