package org.sobercompass.report.pipeline;

import java.io.StringWriter;
import java.util.List;
import java.util.Locale;
import tools.jackson.core.JsonGenerator;
import tools.jackson.core.ObjectWriteContext;
import tools.jackson.core.json.JsonFactory;
import tools.jackson.core.util.DefaultPrettyPrinter;

/**
 * Checks as SARIF 2.1.0 (OASIS). What is stated in a file has its place there (3.28), a finding the
 * stable key of what it is about as a logical location (3.33) and as fingerprint (3.27.17); what is
 * accepted is suppressed (3.35). What holds is left out.
 */
public final class Sarif {
  private static final ObjectWriteContext PRETTY =
      new ObjectWriteContext.Base() {
        @Override
        public tools.jackson.core.PrettyPrinter getPrettyPrinter() {
          return new DefaultPrettyPrinter();
        }
      };

  private Sarif() {}

  /** The whole log. */
  public static String text(List<Check> checks) {
    StringWriter out = new StringWriter();
    try (JsonGenerator json = new JsonFactory().createGenerator(PRETTY, out)) {
      json.writeStartObject();
      json.writeStringProperty("version", "2.1.0");
      json.writeArrayPropertyStart("runs");
      json.writeStartObject();
      tool(json, checks);
      json.writeArrayPropertyStart("results");
      checks.stream()
          .filter(check -> check.level() != Check.Level.NONE)
          .forEach(check -> result(json, check));
      json.writeEndArray();
      json.writeEndObject();
      json.writeEndArray();
      json.writeEndObject();
    }
    return out + "\n";
  }

  private static void tool(JsonGenerator json, List<Check> checks) {
    json.writeObjectPropertyStart("tool");
    json.writeObjectPropertyStart("driver");
    json.writeStringProperty("name", "Sober Compass");
    json.writeStringProperty("semanticVersion", "0.1.0");
    json.writeArrayPropertyStart("rules");
    Check.rules(checks)
        .forEach(
            (id, words) -> {
              json.writeStartObject();
              json.writeStringProperty("id", id);
              json.writeObjectPropertyStart("shortDescription");
              json.writeStringProperty("text", words);
              json.writeEndObject();
              json.writeEndObject();
            });
    json.writeEndArray();
    json.writeEndObject();
    json.writeEndObject();
  }

  private static void result(JsonGenerator json, Check check) {
    json.writeStartObject();
    json.writeStringProperty("ruleId", check.rule());
    json.writeStringProperty("level", check.level().name().toLowerCase(Locale.ROOT));
    json.writeObjectPropertyStart("message");
    String more = check.lines().isEmpty() ? "" : "\n" + String.join("\n", check.lines());
    json.writeStringProperty("text", check.sentence() + more);
    json.writeEndObject();
    json.writeArrayPropertyStart("locations");
    json.writeStartObject();
    if (!check.file().isEmpty()) {
      json.writeObjectPropertyStart("physicalLocation");
      json.writeObjectPropertyStart("artifactLocation");
      json.writeStringProperty("uri", check.file().replace(" ", "%20"));
      json.writeEndObject();
      if (check.line() > 0) {
        json.writeObjectPropertyStart("region");
        json.writeNumberProperty("startLine", check.line());
        json.writeEndObject();
      }
      json.writeEndObject();
    }
    json.writeArrayPropertyStart("logicalLocations");
    json.writeStartObject();
    json.writeStringProperty("fullyQualifiedName", check.id());
    json.writeEndObject();
    json.writeEndArray();
    json.writeEndObject();
    json.writeEndArray();
    json.writeObjectPropertyStart("partialFingerprints");
    json.writeStringProperty("stableKey/v1", check.id());
    json.writeEndObject();
    accepted(json, check);
    json.writeEndObject();
  }

  private static void accepted(JsonGenerator json, Check check) {
    if (!check.accepted().isEmpty()) {
      json.writeArrayPropertyStart("suppressions");
      json.writeStartObject();
      json.writeStringProperty("kind", "external");
      json.writeStringProperty("status", "accepted");
      json.writeStringProperty("justification", check.accepted());
      json.writeEndObject();
      json.writeEndArray();
    }
  }
}
