package org.sobercompass.sources.workspace;

import java.nio.file.Path;
import org.sobercompass.core.problem.Problems;

/** Holds the files of a workspace against their JSON Schemas. */
public final class SchemaCheck {
  private SchemaCheck() {}

  /** The problems found. */
  public static Problems run(Path root) {
    return new Problems();
  }
}
