package org.sobercompass.sources.survey;

import java.util.List;

/**
 * The table of contents of a survey.
 *
 * @param form name and version of the form, {@link #FORM}
 * @param parts the sources, by name
 * @param files every other file of the archive, by name
 */
public record Manifest(String form, List<SurveyPart> parts, List<Item> files) {
  /** The form this program writes. Older ones stay readable. */
  public static final String FORM = "sober-survey/1";

  /** The name of the manifest in the archive. */
  public static final String NAME = "manifest.json";

  /** Copies. */
  public Manifest {
    parts = List.copyOf(parts);
    files = List.copyOf(files);
  }

  /**
   * A file of the archive.
   *
   * @param name its path in the archive
   * @param length in bytes, unpacked
   * @param sha256 of its bytes, unpacked, in hexadecimal
   */
  public record Item(String name, long length, String sha256) {}
}
