package org.sobercompass.sources;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ServiceLoader;
import org.junit.jupiter.api.Test;
import org.sobercompass.sources.workspace.SchemaCheck;

/** Each registered kind of system brings what `check` needs of it. */
class SystemFormatsTest {
  @Test
  void eachKindHasASchemaForItsFile() {
    int kinds = 0;
    for (SystemFormat format : ServiceLoader.load(SystemFormat.class)) {
      String name = format.kind().equals("roles") ? "application" : format.kind();
      assertThat(SchemaCheck.class.getResource("schema/" + name + ".schema.json"))
          .as(name + ".schema.json in docs/schema")
          .isNotNull();
      kinds++;
    }
    assertThat(kinds).isGreaterThan(3);
  }
}
