package org.sobercompass.sources;

import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;
import static com.tngtech.archunit.library.dependencies.SlicesRuleDefinition.slices;

import com.tngtech.archunit.core.domain.JavaClass;
import com.tngtech.archunit.core.domain.JavaClasses;
import com.tngtech.archunit.core.importer.ClassFileImporter;
import com.tngtech.archunit.core.importer.ImportOption;
import com.tngtech.archunit.library.dependencies.SliceAssignment;
import com.tngtech.archunit.library.dependencies.SliceIdentifier;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Rooms point one way, and those of the formats do not see each other. */
class DirectionTest {
  private static final JavaClasses SOURCES =
      new ClassFileImporter()
          .withImportOption(new ImportOption.DoNotIncludeTests())
          .importPackages("org.sobercompass.sources");

  /** Every package by itself, that of the registrations too. */
  private static final class Rooms implements SliceAssignment {
    @Override
    public SliceIdentifier getIdentifierOf(JavaClass type) {
      return type.getPackageName().startsWith("org.sobercompass.sources")
          ? SliceIdentifier.of(type.getPackageName())
          : SliceIdentifier.ignore();
    }

    @Override
    public String getDescription() {
      return "rooms of sources";
    }
  }

  @Test
  void packagesHaveNoCycles() {
    slices().assignedFrom(new Rooms()).should().beFreeOfCycles().check(SOURCES);
  }

  @ParameterizedTest
  @ValueSource(strings = {"roles", "files", "database", "scim", "local", "live"})
  void nobodySeesTheRoomOfAFormatButItself(String room) {
    noClasses()
        .that()
        .resideOutsideOfPackage("org.sobercompass.sources." + room)
        .should()
        .dependOnClassesThat()
        .resideInAPackage("org.sobercompass.sources." + room)
        .check(SOURCES);
  }
}
