package org.sobercompass.sources.workspace;

import java.nio.file.Path;
import java.time.ZoneId;
import java.util.List;
import java.util.Optional;
import org.sobercompass.core.problem.Completeness;
import org.sobercompass.sources.SourceKind;

/**
 * The entries of one directory as they will be read.
 *
 * @param settings the directory
 * @param path where its LDIF stands
 * @param shown how the user knows that place
 * @param taken when it was taken, epoch second, or NEVER
 * @param schema the directory's schema (LDIF), where it is known
 * @param schemaShown how the user knows that place
 * @param withheld attributes that entries must have and did not show
 */
record Export(
    DirectorySettings settings,
    Path path,
    String shown,
    long taken,
    Optional<Path> schema,
    String schemaShown,
    List<Completeness> withheld) {

  /** As its kind reads it. */
  SourceKind.Entries source(ZoneId zone) {
    return new SourceKind.Entries(
        path, shown, schema, schemaShown, settings.login(), settings.accountsOf(), zone);
  }

  /** Where its entries can be read again. */
  DirectoryFile directory(ZoneId zone) {
    return new DirectoryFile(settings.name(), settings.kind(), source(zone), settings.isLive());
  }

  String key() {
    return settings.settings() + shown + "\n" + taken + "\n";
  }
}
