package org.sobercompass.organization;

import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.core.key.Key;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.sources.disk.OwnFiles;
import org.sobercompass.sources.text.Node;
import org.sobercompass.sources.text.TextFiles;
import org.sobercompass.sources.text.YamlReader;
import org.sobercompass.sources.text.YamlText;

/**
 * Writes waivers into the file of a workspace that keeps them; all else in it stays byte for byte.
 * Not thread-safe.
 */
public final class WaiverText {
  /** The file where a workspace names none. */
  public static final String USUAL = "waivers.yaml";

  private static final String MAIN = "compass.yaml";
  private static final long LARGEST = 16L << 20;
  private static final Pattern ITEM = Pattern.compile("(?m)^( *)- ");

  private final Path root;
  private final String file;
  private final boolean named;

  /**
   * The waivers of a workspace.
   *
   * @throws org.sobercompass.core.problem.BadInputException when its {@code compass.yaml} cannot be
   *     read
   */
  public WaiverText(Path root) {
    this.root = root;
    Problems problems = new Problems();
    Node main = YamlReader.read(root.resolve(MAIN), MAIN, problems).orElseGet(Node::nothing);
    problems.throwIfErrors();
    this.named = !main.texts("waivers").isEmpty();
    this.file = main.texts("waivers").stream().findFirst().orElse(USUAL);
  }

  /** The file, as the workspace names it. */
  public String file() {
    return file;
  }

  /** Whether the workspace names a file for waivers; else it has to, for them to count. */
  public boolean isNamed() {
    return named;
  }

  /** A waiver as it is written. */
  public static String text(
      Finding finding, List<Key> subjects, String by, String reason, LocalDate until) {
    return joined(lines(finding, subjects, by, reason, until), "  ");
  }

  /**
   * Accepts a finding for some of those it concerns.
   *
   * @param subjects whom it is accepted for; all that it concerns now when there is only one
   * @return whether it was written; not so where the file cannot be edited safely
   */
  public boolean add(
      Finding finding, List<Key> subjects, String by, String reason, LocalDate until) {
    List<String> lines = lines(finding, subjects, by, reason, until);
    Path path = root.resolve(file);
    Optional<String> changed =
        Files.exists(path)
            ? appended(path, lines)
            : Optional.of("waivers:\n" + joined(lines, "  "));
    changed.ifPresent(text -> OwnFiles.edit(path, text));
    return changed.isPresent();
  }

  private static List<String> lines(
      Finding finding, List<Key> subjects, String by, String reason, LocalDate until) {
    List<String> lines = new ArrayList<>();
    lines.add("- finding: " + YamlText.inQuotes(finding.key().text()));
    if (finding.subjects().size() > 1) {
      lines.add("  subjects:");
      for (Key subject : subjects) {
        lines.add("    - " + YamlText.inQuotes(subject.text()));
      }
    }
    lines.add("  accepted-by: " + YamlText.inQuotes(by));
    lines.add("  reason: " + YamlText.inQuotes(reason));
    lines.add("  until: " + until);
    return lines;
  }

  private static String joined(List<String> lines, String indent) {
    StringBuilder text = new StringBuilder();
    lines.forEach(line -> text.append(indent).append(line).append('\n'));
    return text.toString();
  }

  /** The file with one more at its end; empty when it would not say exactly that. */
  private Optional<String> appended(Path path, List<String> lines) {
    Problems problems = new Problems();
    String text = TextFiles.read(path, file, LARGEST, problems).orElse("");
    List<Node> before = items(text, problems);
    problems.throwIfErrors();
    Matcher item = ITEM.matcher(text);
    String indent = item.find() ? item.group(1) : "  ";
    String changed = (text.endsWith("\n") ? text : text + "\n") + joined(lines, indent);
    List<Node> after = items(changed, problems);
    List<Node> added = items("waivers:\n" + joined(lines, "  "), problems);
    boolean fits = problems.errors() == 0 && after.size() == before.size() + 1;
    for (int i = 0; fits && i < before.size(); i++) {
      fits = after.get(i).says().equals(before.get(i).says());
    }
    fits = fits && after.get(before.size()).says().equals(added.get(0).says());
    return fits ? Optional.of(changed) : Optional.empty();
  }

  private List<Node> items(String text, Problems problems) {
    return YamlReader.parse(text, file, problems)
        .flatMap(node -> node.get("waivers"))
        .map(Node::items)
        .orElse(List.of());
  }
}
