package org.sobercompass.sources.roles;

import java.time.LocalDate;
import java.time.ZoneId;
import java.time.format.DateTimeParseException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.system.Terms;
import org.sobercompass.sources.text.Node;

/** Reads what an application asks of those who use it, and its emergency accounts. */
final class TermsReader {
  private TermsReader() {}

  static Terms read(Node file, ZoneId zone) {
    List<Terms.Emergency> emergency = new ArrayList<>();
    for (Node node : file.get("emergency").map(Node::items).orElse(List.of())) {
      node.only(Set.of("account", "tried"));
      emergency.add(new Terms.Emergency(node.need("account"), date(node, "tried")));
    }
    String name = file.text("sign-in-name").orElse(Terms.NONE.signInName());
    if (!name.contains("{login}") && !name.contains("{mail}")) {
      file.get("sign-in-name")
          .orElse(file)
          .wrong(Problem.quote(name) + " is the same for all", "{login} or {mail} in it");
    }
    return new Terms(
        required(file),
        file.text("place"),
        file.texts("hosts"),
        name,
        caseCounts(file),
        emergency,
        administrators(file),
        file.texts("trusted"),
        file.get("sight").map(sight -> sight.yes("waiting-for-restart", false)).orElse(false),
        file.get("sight").flatMap(sight -> date(sight, "copied")),
        file.get("sight").flatMap(sight -> switching(sight, zone)),
        file.get("assignments").flatMap(node -> date(node, "taken")));
  }

  private static Optional<Terms.Switch> switching(Node sight, ZoneId zone) {
    return date(sight, "switch")
        .map(
            day ->
                new Terms.Switch(
                    sight.text("directory").orElse(""),
                    day.atStartOfDay(zone).toEpochSecond(),
                    day));
  }

  private static boolean required(Node file) {
    Optional<String> text = file.text("second-factor");
    if (text.isPresent() && !Set.of("required", "optional").contains(text.get())) {
      file.wrong(
          "second-factor: " + Problem.quote(text.get()) + " is neither", "required or optional");
    }
    return text.filter("required"::equals).isPresent();
  }

  private static Optional<Boolean> caseCounts(Node file) {
    Optional<String> text = file.text("sign-in-case");
    if (text.isPresent() && !Set.of("exact", "alike").contains(text.get())) {
      file.wrong(
          "sign-in-case: " + Problem.quote(text.get()) + " is neither",
          "exact, or alike when upper and lower case are the same");
    }
    return text.map("exact"::equals);
  }

  private static List<String> administrators(Node file) {
    List<String> roles = file.texts("administrators");
    Set<String> known = file.get("roles").map(node -> node.entries().keySet()).orElse(Set.of());
    for (String role : roles) {
      if (!known.contains(role)) {
        file.get("administrators")
            .orElse(file)
            .wrong(
                "administrators: there is no role " + Problem.quote(role),
                "one of " + String.join(", ", known));
      }
    }
    return roles;
  }

  private static Optional<LocalDate> date(Node node, String key) {
    Optional<String> text = node.text(key);
    try {
      return text.map(LocalDate::parse);
    } catch (DateTimeParseException e) {
      node.wrong(
          key + ": " + Problem.quote(text.orElse("")) + " is no date", "a date as in 2026-01-31");
      return Optional.empty();
    }
  }
}
