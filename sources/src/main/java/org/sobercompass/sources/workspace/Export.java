package org.sobercompass.sources.workspace;

import java.nio.file.Path;

/**
 * The entries of one directory as they will be read.
 *
 * @param settings the directory
 * @param path where its LDIF stands
 * @param shown how the user knows that place
 * @param taken when it was taken, epoch second, or NEVER
 */
record Export(DirectorySettings settings, Path path, String shown, long taken) {
  String key() {
    return settings.settings() + shown + "\n" + taken + "\n";
  }
}
