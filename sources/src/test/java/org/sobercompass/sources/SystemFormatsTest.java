package org.sobercompass.sources;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.InputStream;
import java.lang.module.ModuleDescriptor;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
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

  /** On the class path the services files count, on the module path the module's declaration. */
  @Test
  void theModuleProvidesWhatTheServicesFilesName() throws Exception {
    Path classes =
        Path.of(SystemFormat.class.getProtectionDomain().getCodeSource().getLocation().toURI());
    ModuleDescriptor module;
    try (InputStream in = Files.newInputStream(classes.resolve("module-info.class"))) {
      module = ModuleDescriptor.read(in);
    }
    for (Class<?> service : List.of(SystemFormat.class, SourceKind.class, Collecting.class)) {
      List<String> named =
          ServiceLoader.load(service).stream().map(p -> p.type().getName()).toList();
      assertThat(module.provides())
          .filteredOn(provides -> provides.service().equals(service.getName()))
          .singleElement()
          .satisfies(
              provides ->
                  assertThat(provides.providers()).containsExactlyInAnyOrderElementsOf(named));
    }
  }
}
