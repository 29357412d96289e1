package org.sobercompass.sources.scim;

import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.util.Optional;
import java.util.Set;
import org.sobercompass.core.facts.FactsSource;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.sources.Drafts;
import org.sobercompass.sources.LiveSource;
import org.sobercompass.sources.SourceKind;
import org.sobercompass.sources.disk.Folder;
import org.sobercompass.sources.text.Node;
import tools.jackson.core.JacksonException;
import tools.jackson.core.JsonEncoding;
import tools.jackson.core.JsonGenerator;
import tools.jackson.core.JsonParser;
import tools.jackson.core.JsonToken;
import tools.jackson.core.ObjectReadContext;
import tools.jackson.core.ObjectWriteContext;
import tools.jackson.core.StreamWriteFeature;
import tools.jackson.core.json.JsonFactory;

/** Users and groups of SCIM 2.0 (RFC 7643), as JSON lines or over the wire. */
public final class ScimKind implements SourceKind {
  @Override
  public String id() {
    return "scim";
  }

  @Override
  public Set<String> settings() {
    return Set.of("address", "plain", "token");
  }

  @Override
  public String ending() {
    return ".jsonl";
  }

  @Override
  public void read(Entries entries, FactsSource into, Problems problems) {
    new ScimSource(entries.shown(), into, problems).read(entries.path());
  }

  @Override
  public void amend(Wanted wanted, Drafts into) {
    for (Wish wish : wanted.steps()) {
      new ScimAmending(wanted).make(wish, into);
    }
  }

  @Override
  public Optional<LiveSource> live(String name, Node node, Folder root) {
    return ScimAccess.read(name, node, root).map(access -> access);
  }

  /** Without the passwords that a service should not have given (RFC 7643 section 4.1.1). */
  @Override
  public void withoutSecrets(InputStream in, OutputStream to) throws IOException {
    try (JsonParser parser = new JsonFactory().createParser(ObjectReadContext.empty(), in);
        JsonGenerator out =
            JsonFactory.builder()
                .disable(StreamWriteFeature.AUTO_CLOSE_TARGET)
                .rootValueSeparator("\n")
                .build()
                .createGenerator(ObjectWriteContext.empty(), to, JsonEncoding.UTF8)) {
      for (JsonToken token = parser.nextToken(); token != null; token = parser.nextToken()) {
        if (token == JsonToken.PROPERTY_NAME && parser.currentName().equalsIgnoreCase("password")) {
          parser.nextToken();
          parser.skipChildren();
        } else {
          out.copyCurrentEvent(parser);
        }
      }
    } catch (JacksonException e) {
      throw new IOException("this is not JSON", e);
    }
  }
}
