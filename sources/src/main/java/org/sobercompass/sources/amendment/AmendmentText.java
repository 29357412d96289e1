package org.sobercompass.sources.amendment;

import java.time.Instant;
import java.time.format.DateTimeParseException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import org.sobercompass.core.amendment.Amendment;
import org.sobercompass.core.amendment.AmendmentRecord;
import org.sobercompass.core.amendment.Difference;
import org.sobercompass.core.audit.Foretold;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.core.system.Verdict;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ArrayNode;
import tools.jackson.databind.node.ObjectNode;

/** Amendments as JSON. */
final class AmendmentText {
  private static final int FORM = 1;
  private static final JsonMapper JSON = JsonMapper.shared();

  private AmendmentText() {}

  /** What an amendment is, with the digest of each of its files. */
  static String head(Amendment amendment, Map<String, String> digests) {
    ObjectNode node = JSON.createObjectNode();
    node.put("form", FORM);
    node.put("name", amendment.name());
    node.put("made", amendment.made().toString());
    node.put("rests_on", amendment.restsOn());
    ArrayNode targets = node.putArray("targets");
    for (Amendment.Target target : amendment.targets()) {
      ObjectNode one = targets.addObject().put("name", target.name()).put("kind", target.kind());
      target.as().ifPresent(as -> one.put("as", as));
    }
    ArrayNode hand = node.putArray("by_hand");
    amendment.byHand().forEach(hand::add);
    ObjectNode files = node.putObject("sha256");
    digests.forEach(files::put);
    return JSON.writerWithDefaultPrettyPrinter().writeValueAsString(node) + "\n";
  }

  /** Records, one a line. */
  static String records(List<AmendmentRecord> records) {
    StringBuilder out = new StringBuilder();
    for (AmendmentRecord record : records) {
      ObjectNode node = JSON.createObjectNode();
      node.put("record", record.number());
      node.put("target", record.target());
      node.put("place", record.place());
      if (!record.id().isEmpty()) {
        node.put("id", record.id());
      }
      node.put("words", record.words());
      ArrayNode differences = node.putArray("differences");
      for (Difference difference : record.differences()) {
        ObjectNode one = differences.addObject().put("name", difference.name());
        ArrayNode removed = one.putArray("removed");
        difference.removed().forEach(removed::add);
        ArrayNode added = one.putArray("added");
        difference.added().forEach(added::add);
      }
      out.append(JSON.writeValueAsString(node)).append('\n');
    }
    return out.toString();
  }

  /** What a preview said. */
  static String foretold(Foretold foretold) {
    ObjectNode node = JSON.createObjectNode();
    ArrayNode rights = node.putArray("rights");
    for (Foretold.Right right : foretold.rights()) {
      rights
          .addObject()
          .put("account", right.account())
          .put("system", right.system())
          .put("what", right.what())
          .put("where", right.where())
          .put("verdict", right.verdict().name().toLowerCase(Locale.ROOT));
    }
    ArrayNode begin = node.putArray("findings_begin");
    foretold.begin().forEach(begin::add);
    ArrayNode end = node.putArray("findings_end");
    foretold.end().forEach(end::add);
    return JSON.writeValueAsString(node) + "\n";
  }

  /** The same, read again; its digest was compared before. */
  static Foretold foretold(String text) {
    JsonNode node = JSON.readTree(text);
    List<Foretold.Right> rights = new ArrayList<>();
    for (JsonNode one : node.path("rights")) {
      rights.add(
          new Foretold.Right(
              text(one, "account"),
              text(one, "system"),
              text(one, "what"),
              text(one, "where"),
              Verdict.valueOf(text(one, "verdict").toUpperCase(Locale.ROOT))));
    }
    return new Foretold(rights, texts(node, "findings_begin"), texts(node, "findings_end"));
  }

  /** The digests of all files, by name. */
  static Map<String, String> digests(String head, String folder, Problems problems) {
    Map<String, String> digests = new LinkedHashMap<>();
    try {
      JsonNode node = JSON.readTree(head);
      if (node.path("form").asInt(0) != FORM) {
        problems.error(
            Place.of(folder), "the form of the amendment is not known here", "form " + FORM);
      }
      node.path("sha256")
          .properties()
          .forEach(one -> digests.put(one.getKey(), one.getValue().asString("")));
    } catch (JacksonException e) {
      problems.error(Place.of(folder), "amendment.json is no JSON", "what `sober amend` wrote");
    }
    return digests;
  }

  /** The amendment; digests were compared before. */
  static Amendment read(String head, String records, String folder, Problems problems) {
    JsonNode node = JSON.readTree(head);
    List<Amendment.Target> targets = new ArrayList<>();
    for (JsonNode one : node.path("targets")) {
      targets.add(
          new Amendment.Target(
              text(one, "name"),
              text(one, "kind"),
              Optional.of(text(one, "as")).filter(as -> !as.isEmpty())));
    }
    List<AmendmentRecord> all = new ArrayList<>();
    for (String line : records.lines().toList()) {
      try {
        all.add(record(JSON.readTree(line)));
      } catch (JacksonException e) {
        problems.error(Place.of(folder + "/records.jsonl"), "a line is no JSON", "one a record");
      }
    }
    Instant made = Instant.EPOCH;
    try {
      made = Instant.parse(text(node, "made"));
    } catch (DateTimeParseException e) {
      problems.error(Place.of(folder), "it does not say when it was made", "made: an instant");
    }
    return new Amendment(
        text(node, "name"), made, text(node, "rests_on"), targets, all, texts(node, "by_hand"));
  }

  private static AmendmentRecord record(JsonNode node) {
    List<Difference> differences = new ArrayList<>();
    for (JsonNode one : node.path("differences")) {
      differences.add(
          new Difference(text(one, "name"), texts(one, "removed"), texts(one, "added")));
    }
    return new AmendmentRecord(
        node.path("record").asInt(0),
        text(node, "target"),
        text(node, "place"),
        text(node, "id"),
        text(node, "words"),
        differences);
  }

  private static String text(JsonNode node, String name) {
    return node.path(name).asString("");
  }

  private static List<String> texts(JsonNode node, String name) {
    List<String> texts = new ArrayList<>();
    node.path(name).forEach(one -> texts.add(one.asString("")));
    return texts;
  }
}
