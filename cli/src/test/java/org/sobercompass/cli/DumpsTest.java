package org.sobercompass.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.io.StringWriter;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.report.answers.Dumps;
import org.sobercompass.sources.workspace.Workspace;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.ObjectMapper;

/** What is streamed as JSON lines is what is handed out as rows, whatever the names look like. */
class DumpsTest {
  @TempDir static Path demo;
  private static AccessModel model;

  @BeforeAll
  static void readTheDemoWithAHostileName() throws IOException {
    DemoFiles.write(demo);
    Files.writeString(
        demo.resolve("directory/alderfen.ldif"),
        """

        dn: uid=hostile,ou=people,dc=alderfen,dc=example
        objectClass: inetOrgPerson
        uid:: cXVvdGUiZCBcIMW9b2ZpZeKAqA==
        cn: Hostile
        sn: Hostile
        """,
        StandardOpenOption.APPEND);
    model = Workspace.open(demo).model();
  }

  private static List<Object> values(JsonNode line) {
    List<Object> values = new ArrayList<>();
    for (JsonNode value : line.values()) {
      if (value.isArray()) {
        values.add(value.valueStream().map(JsonNode::asString).toList());
      } else {
        values.add(value.isBoolean() ? value.booleanValue() : value.asString());
      }
    }
    return values;
  }

  @ParameterizedTest
  @ValueSource(strings = {"holdings", "memberships"})
  void jsonLinesHoldTheSameRowsInTheSameOrder(String what) {
    List<List<Object>> rows = new ArrayList<>();
    new Dumps(model).rows(what, rows::add);
    StringWriter text = new StringWriter();
    new Dumps(model).jsonl(what, text);
    List<List<Object>> lines =
        text.toString().lines().map(line -> values(new ObjectMapper().readTree(line))).toList();
    assertThat(lines).hasSizeGreaterThan(200).isEqualTo(rows);
  }

  @Test
  void aHostileNameIsAmongThem() {
    StringWriter text = new StringWriter();
    new Dumps(model).jsonl("holdings", text);
    assertThat(text.toString()).contains("\"login\":\"quote\\\"d \\\\ Žofie");
  }

  @Test
  void theFirstAccountsOnlyAreTheBeginningOfAll() {
    StringWriter few = new StringWriter();
    StringWriter all = new StringWriter();
    new Dumps(model, 5).jsonl("holdings", few);
    new Dumps(model).jsonl("holdings", all);
    assertThat(few.toString()).isNotEmpty();
    assertThat(all.toString()).startsWith(few.toString());
  }
}
