package org.sobercompass.core.delegation;

import org.sobercompass.core.system.Decider;

/** What a system of a directory's lists shows besides what every system shows. */
public interface DirectoryLists {
  /** The objects with their lists, as they stand after what was changed. */
  DirectoryTree tree();

  /** Decides as the directory would with other lists of as many entries. */
  Decider decider(DirectoryTree other);
}
