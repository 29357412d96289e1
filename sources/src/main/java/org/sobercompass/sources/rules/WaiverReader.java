package org.sobercompass.sources.rules;

import java.time.LocalDate;
import java.time.ZoneId;
import java.time.format.DateTimeParseException;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.findings.FindingKind;
import org.sobercompass.core.findings.Waiver;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.sources.disk.Folder;
import org.sobercompass.sources.text.Node;
import org.sobercompass.sources.text.YamlReader;

/** Reads which findings are accepted: a list under {@code waivers} of a file of its own. */
public final class WaiverReader {
  private static final Set<String> KEYS =
      Set.of("finding", "subjects", "accepted-by", "reason", "until", "control");

  private final Folder root;
  private final ZoneId zone;
  private final Facts facts;
  private final SideReader sides;
  private final Problems problems;

  /** A reader of the files of a workspace. */
  public WaiverReader(Folder root, ZoneId zone, Facts facts, Problems problems) {
    this.root = root;
    this.zone = zone;
    this.facts = facts;
    this.problems = problems;
    this.sides =
        new SideReader(List.of(), org.sobercompass.core.admin.Administration.NONE, facts, problems);
  }

  /** All waivers of the files; what is wrong goes to the problems. */
  public List<Waiver> read(List<String> files) {
    List<Waiver> all = new ArrayList<>();
    for (String file : files) {
      Optional<Node> read = YamlReader.read(root.resolve(file), file, problems);
      read.map(node -> node.only(Set.of("waivers")))
          .flatMap(node -> node.get("waivers"))
          .ifPresentOrElse(
              list -> list.items().forEach(item -> all.add(one(item))),
              () ->
                  read.ifPresent(
                      node ->
                          problems.warning(
                              node.place(),
                              "the file holds no waiver",
                              "waivers: and a list; [] when there is none")));
    }
    return List.copyOf(all);
  }

  private Waiver one(Node node) {
    node.only(KEYS);
    String finding = node.need("finding");
    if (!finding.isEmpty() && !finding.startsWith("finding:")) {
      node.wrong(
          Problem.quote(finding) + " is no identity of a finding",
          "what `sober findings --detail ID` prints as its identity");
    }
    String kind = finding.replaceFirst("^finding:", "").replaceFirst("/.*", "");
    List<String> kinds = Arrays.stream(FindingKind.values()).map(FindingKind::id).toList();
    if (finding.startsWith("finding:") && !kinds.contains(kind)) {
      problems.unknown(
          node.get("finding").map(Node::place).orElse(node.place()),
          "there is no kind of finding " + Problem.quote(kind),
          "the identity as `sober findings --detail ID` prints it",
          kind,
          kinds);
    }
    LocalDate until = until(node);
    Set<String> subjects = new HashSet<>();
    for (Node item : node.get("subjects").map(Node::items).orElse(List.of())) {
      subjects.add(subject(item));
    }
    return new Waiver(
        finding,
        subjects,
        node.need("accepted-by"),
        node.need("reason"),
        until,
        until.plusDays(1).atStartOfDay(zone).toEpochSecond(),
        node.text("control").orElse(""),
        node.place());
  }

  /** A key as printed stands for itself; a name is looked up. */
  private String subject(Node item) {
    String text = item.text();
    boolean isKey = text.matches("(account|group|unit|implicit|application|node|role):.*");
    if (isKey) {
      return text;
    }
    int subject = sides.subject(text, item.place());
    return subject < 0 ? text : facts.key(subject).text();
  }

  private static LocalDate until(Node node) {
    String text = node.need("until");
    try {
      return LocalDate.parse(text);
    } catch (DateTimeParseException e) {
      node.wrong(
          "until: " + Problem.quote(text) + " is no date",
          "the last day on which it is accepted, as in 2026-12-31");
      return LocalDate.EPOCH;
    }
  }
}
