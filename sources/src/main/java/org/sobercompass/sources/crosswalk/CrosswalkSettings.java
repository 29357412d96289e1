package org.sobercompass.sources.crosswalk;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.sobercompass.core.crosswalk.MatchPlan;
import org.sobercompass.core.crosswalk.MatchRule;
import org.sobercompass.core.crosswalk.MatchRule.As;
import org.sobercompass.core.crosswalk.NewNames;
import org.sobercompass.core.membership.Sight;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.sources.SightReader;
import org.sobercompass.sources.directory.DnForm;
import org.sobercompass.sources.text.Node;

/**
 * A crosswalk as a workspace names it.
 *
 * @param plan what is matched, and by what
 * @param file the table, as the workspace names it
 * @param fresh where and how accounts and groups are made that have no counterpart
 * @param place where the workspace names it
 */
public record CrosswalkSettings(MatchPlan plan, String file, New fresh, Place place) {
  /**
   * What is still to be made on the other side.
   *
   * @param accounts the DN below which accounts are made, or empty
   * @param groups the DN below which groups are made, or empty
   * @param login the pattern of login names
   */
  public record New(String accounts, String groups, String login) {
    static final New NOWHERE = new New("", "", NewNames.USUAL);
  }

  private static final String KEY = "crosswalks";
  private static final Set<String> KEYS = Set.of("from", "to", "by", "strip", "new", "file");
  private static final Set<String> RULE =
      Set.of("attribute", "from", "to", "as", "domains", "strip", "accents");

  /** Two directories that the workspace does not name together: all of them, by what is usual. */
  public static CrosswalkSettings usual(String from, String to) {
    return new CrosswalkSettings(
        MatchPlan.usual(from, to), file(from, to), New.NOWHERE, Place.of(""));
  }

  /** The table where a workspace names none. */
  public static String file(String from, String to) {
    return KEY + "/" + from + "-" + to + ".csv";
  }

  /** Whether it is of these two directories. */
  public boolean isOf(String from, String to) {
    return plan.from().directory().equals(from) && plan.to().directory().equals(to);
  }

  /** The crosswalks of a workspace. */
  public static List<CrosswalkSettings> read(
      Node main, Set<String> directories, Problems problems) {
    List<CrosswalkSettings> all = new ArrayList<>();
    for (Node item : main.get(KEY).map(Node::items).orElse(List.of())) {
      item.only(KEYS);
      Optional<Sight> from = side(item, "from", directories, problems);
      Optional<Sight> to = side(item, "to", directories, problems);
      if (from.isEmpty() || to.isEmpty()) {
        continue;
      }
      List<MatchRule> rules = new ArrayList<>();
      item.get("by").ifPresent(by -> by.items().forEach(r -> rule(r).ifPresent(rules::add)));
      String one = from.get().directory();
      String other = to.get().directory();
      if (all.stream().anyMatch(before -> before.isOf(one, other))) {
        item.wrong("the crosswalk from " + one + " to " + other + " stands twice", "each once");
      }
      all.add(
          new CrosswalkSettings(
              new MatchPlan(
                  from.get(),
                  to.get(),
                  rules.isEmpty() ? MatchRule.usual() : rules,
                  lower(item.texts("strip"))),
              item.text("file").orElse(file(one, other)),
              fresh(item),
              item.place()));
    }
    return all;
  }

  private static New fresh(Node item) {
    Optional<Node> node = item.get("new");
    if (node.isEmpty()) {
      return New.NOWHERE;
    }
    node.get().only(Set.of("accounts", "groups", "login"));
    String login = node.get().text("login").orElse(NewNames.USUAL);
    if (!NewNames.isPattern(login)) {
      node.get()
          .wrong(
              "login: " + Problem.quote(login) + " makes no names",
              "a pattern with {given}, {g}, {last} or {login}, such as {given}.{last}");
    }
    for (String key : List.of("accounts", "groups")) {
      String dn = node.get().text(key).orElse("");
      if (!dn.isEmpty() && !DnForm.isDn(dn)) {
        node.get().wrong(key + ": " + Problem.quote(dn) + " is no DN", "a DN");
      }
    }
    return new New(
        node.get().text("accounts").orElse(""), node.get().text("groups").orElse(""), login);
  }

  /** A directory by its name, or what is looked at of it, in the words of a sight. */
  private static Optional<Sight> side(
      Node item, String key, Set<String> directories, Problems problems) {
    Optional<Node> node = item.get(key);
    if (node.isEmpty()) {
      item.need(key);
      return Optional.empty();
    }
    Sight sight =
        node.get().kind() == Node.Kind.MAP
            ? SightReader.read(node.get(), problems)
            : Sight.all(node.get().text());
    if (!directories.contains(sight.directory())) {
      problems.unknown(
          node.get().place(),
          "there is no directory " + Problem.quote(sight.directory()),
          "one of " + String.join(", ", directories),
          sight.directory(),
          directories);
      return Optional.empty();
    }
    return Optional.of(sight);
  }

  private static Optional<MatchRule> rule(Node node) {
    if (node.kind() != Node.Kind.MAP) {
      return Optional.of(rule(node.text()));
    }
    node.only(RULE);
    String attribute = node.text("attribute").orElse("");
    String from = node.text("from").orElse(attribute);
    String to = node.text("to").orElse(attribute);
    if (from.isEmpty() || to.isEmpty()) {
      node.wrong("it names no attribute", "attribute:, or from: and to:");
      return Optional.empty();
    }
    MatchRule usual = MatchRule.of(from, to);
    Map<String, String> domains = new LinkedHashMap<>();
    node.get("domains")
        .ifPresent(
            all ->
                all.entries()
                    .forEach(
                        (old, now) ->
                            domains.put(
                                old.toLowerCase(Locale.ROOT),
                                now.text().toLowerCase(Locale.ROOT))));
    return Optional.of(
        new MatchRule(
            usual.from(),
            usual.to(),
            as(node, usual.as()),
            domains,
            lower(node.texts("strip")),
            node.yes("accents", true)));
  }

  /** One attribute for both sides, or two: {@code mobile}, {@code employeeNumber=serialNumber}. */
  public static MatchRule rule(String text) {
    int at = text.indexOf('=');
    return at < 0
        ? MatchRule.of(text.strip())
        : MatchRule.of(text.substring(0, at).strip(), text.substring(at + 1).strip());
  }

  private static As as(Node node, As usual) {
    Optional<String> word = node.text("as");
    if (word.isEmpty()) {
      return usual;
    }
    return switch (word.get()) {
      case "value" -> As.VALUE;
      case "name" -> As.NAME;
      case "login" -> As.LOGIN;
      default -> {
        node.wrong("as: " + Problem.quote(word.get()), "value, name or login");
        yield usual;
      }
    };
  }

  private static List<String> lower(List<String> texts) {
    return texts.stream().map(text -> text.toLowerCase(Locale.ROOT)).toList();
  }
}
