package org.sobercompass.core;

import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.classes;
import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;
import static com.tngtech.archunit.library.dependencies.SlicesRuleDefinition.slices;

import com.tngtech.archunit.core.domain.JavaClasses;
import com.tngtech.archunit.core.importer.ClassFileImporter;
import com.tngtech.archunit.core.importer.ImportOption;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Packages point one way. */
class DirectionTest {
  private static final JavaClasses CORE =
      new ClassFileImporter()
          .withImportOption(new ImportOption.DoNotIncludeTests())
          .importPackages("org.sobercompass.core");

  @Test
  void packagesHaveNoCycles() {
    slices().matching("org.sobercompass.core.(**)").should().beFreeOfCycles().check(CORE);
  }

  @Test
  void coreUsesTheJdkAndNullAnnotationsOnly() {
    classes()
        .should()
        .onlyDependOnClassesThat()
        .resideInAnyPackage("org.sobercompass.core..", "java..", "org.jspecify..")
        .check(CORE);
  }

  @Test
  void coreReadsNoClockAndNoFile() {
    noClasses()
        .should()
        .dependOnClassesThat()
        .resideInAnyPackage("java.nio.file..", "java.io..", "java.net..", "java.sql..")
        .check(CORE);
    noClasses().should().callMethod(java.time.Instant.class, "now").check(CORE);
    noClasses().should().callMethod(System.class, "currentTimeMillis").check(CORE);
  }

  /** The seam, its users, and the other kinds know none of them. */
  @ParameterizedTest
  @ValueSource(strings = {"roles", "files", "database", "directory", "scopes"})
  void nobodyOutsideSeesAKindOfSystem(String kind) {
    noClasses()
        .that()
        .resideOutsideOfPackage("org.sobercompass.core.system." + kind)
        .should()
        .dependOnClassesThat()
        .resideInAPackage("org.sobercompass.core.system." + kind)
        .check(CORE);
  }

  /** A family of findings is known to what runs them all, and to no other family. */
  @ParameterizedTest
  @ValueSource(strings = {"separation", "grants", "accounts", "lists"})
  void familiesOfFindingsDoNotSeeEachOther(String family) {
    noClasses()
        .that()
        .resideOutsideOfPackages(
            "org.sobercompass.core.findings." + family, "org.sobercompass.core.audit")
        .should()
        .dependOnClassesThat()
        .resideInAPackage("org.sobercompass.core.findings." + family)
        .check(CORE);
  }
}
