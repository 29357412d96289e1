package org.sobercompass.sources.survey;

import java.io.StringWriter;
import java.nio.file.Path;
import java.time.DateTimeException;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.sobercompass.core.problem.Completeness;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.sources.text.Node;
import org.sobercompass.sources.text.YamlReader;
import tools.jackson.core.JsonGenerator;
import tools.jackson.core.ObjectWriteContext;
import tools.jackson.core.json.JsonFactory;
import tools.jackson.core.util.DefaultPrettyPrinter;

/** The manifest as JSON, and back. Read as YAML, of which JSON is a part, for the places. */
final class ManifestText {
  /** How many referrals or moved entries are named; the others are counted. */
  private static final int MOST = 1000;

  private ManifestText() {}

  /**
   * The manifest as a text that was read back.
   *
   * @throws BadInputException when it cannot be: such a survey is not written
   */
  static String readable(Manifest manifest) {
    String text = write(manifest);
    Problems problems = new Problems();
    read(YamlReader.parse(text, Manifest.NAME, problems));
    problems.throwIfErrors();
    return text;
  }

  static String write(Manifest manifest) {
    StringWriter text = new StringWriter();
    ObjectWriteContext pretty =
        new ObjectWriteContext.Base() {
          @Override
          public tools.jackson.core.PrettyPrinter getPrettyPrinter() {
            return new DefaultPrettyPrinter();
          }
        };
    try (JsonGenerator out = new JsonFactory().createGenerator(pretty, text)) {
      out.writeStartObject();
      out.writeStringProperty("form", manifest.form());
      out.writeName("parts");
      out.writeStartArray();
      manifest.parts().forEach(part -> part(part, out));
      out.writeEndArray();
      out.writeName("files");
      out.writeStartArray();
      for (Manifest.Item item : manifest.files()) {
        out.writeStartObject();
        out.writeStringProperty("name", item.name());
        out.writeNumberProperty("length", item.length());
        out.writeStringProperty("sha256", item.sha256());
        out.writeEndObject();
      }
      out.writeEndArray();
      out.writeEndObject();
    }
    return text + "\n";
  }

  private static void part(SurveyPart part, JsonGenerator out) {
    out.writeStartObject();
    out.writeStringProperty("name", part.name());
    out.writeStringProperty("how", part.how());
    out.writeStringProperty("place", part.place());
    out.writeStringProperty("identity", part.identity());
    out.writeStringProperty("protection", part.protection());
    out.writeStringProperty("started", part.started().toString());
    out.writeStringProperty("ended", part.ended().toString());
    out.writeBooleanProperty("dated", part.dated());
    texts("changes", part.changes(), out);
    out.writeNumberProperty("entries", part.entries());
    texts("bases", part.bases(), out);
    texts("referrals", some(part.referrals()), out);
    texts("moved", some(part.moved()), out);
    out.writeName("completeness");
    out.writeStartArray();
    for (Completeness c : part.completeness()) {
      out.writeStartObject();
      out.writeStringProperty("attribute", c.attribute());
      out.writeNumberProperty("asked", c.asked());
      out.writeNumberProperty("returned", c.returned());
      out.writeNumberProperty("withheld", c.withheld());
      out.writeEndObject();
    }
    out.writeEndArray();
    out.writeStringProperty("file", part.file());
    part.schema().ifPresent(schema -> out.writeStringProperty("schema", schema));
    out.writeEndObject();
  }

  /** The first of a long list, and how many there are besides. */
  private static List<String> some(List<String> all) {
    if (all.size() <= MOST) {
      return all;
    }
    List<String> some = new ArrayList<>(all.subList(0, MOST));
    some.add("and " + (all.size() - MOST) + " more");
    return some;
  }

  private static void texts(String name, List<String> texts, JsonGenerator out) {
    out.writeName(name);
    out.writeStartArray();
    texts.forEach(out::writeString);
    out.writeEndArray();
  }

  /** What a manifest says; problems are told with their place in it. */
  static Manifest read(Path file, Problems problems) {
    return read(YamlReader.read(file, Manifest.NAME, problems));
  }

  private static Manifest read(Optional<Node> read) {
    Node node = read.orElseGet(Node::nothing);
    String form = node.need("form");
    if (!form.isEmpty() && !form.equals(Manifest.FORM)) {
      node.wrong(
          "the survey is of the form " + Problem.quote(form),
          Manifest.FORM + "; a newer program wrote it");
    }
    List<SurveyPart> parts = new ArrayList<>();
    node.get("parts").map(Node::items).orElse(List.of()).forEach(n -> parts.add(part(n)));
    List<Manifest.Item> files = new ArrayList<>();
    for (Node item : node.get("files").map(Node::items).orElse(List.of())) {
      files.add(new Manifest.Item(item.need("name"), number(item, "length"), item.need("sha256")));
    }
    return new Manifest(form, parts, files);
  }

  private static SurveyPart part(Node node) {
    String name = node.need("name");
    List<Completeness> completeness = new ArrayList<>();
    for (Node c : node.get("completeness").map(Node::items).orElse(List.of())) {
      completeness.add(
          new Completeness(
              name,
              c.need("attribute"),
              (int) number(c, "asked"),
              (int) number(c, "returned"),
              (int) number(c, "withheld")));
    }
    return new SurveyPart(
        name,
        node.need("how"),
        node.need("place"),
        node.text("identity").orElse(""),
        node.text("protection").orElse(""),
        instant(node, "started"),
        instant(node, "ended"),
        node.yes("dated", true),
        node.texts("changes"),
        (int) number(node, "entries"),
        node.texts("bases"),
        node.texts("referrals"),
        node.texts("moved"),
        completeness,
        node.need("file"),
        node.text("schema"));
  }

  private static Instant instant(Node node, String key) {
    String text = node.need(key);
    try {
      return Instant.parse(text);
    } catch (DateTimeException e) {
      node.wrong(key + ": " + Problem.quote(text) + " is no instant", "as in 2026-11-23T06:00:00Z");
      return Instant.EPOCH;
    }
  }

  private static long number(Node node, String key) {
    Optional<String> text = node.text(key).filter(t -> t.matches("[0-9]{1,15}"));
    if (text.isEmpty()) {
      node.wrong("there is no number " + key, key + ": and a number");
    }
    return text.map(Long::parseLong).orElse(0L);
  }
}
