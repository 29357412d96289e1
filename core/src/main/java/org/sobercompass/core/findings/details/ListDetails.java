package org.sobercompass.core.findings.details;

import org.sobercompass.core.system.Remark;
import org.sobercompass.core.system.remark.ListedEntry;

/** About lists of files, databases and directory objects. */
public sealed interface ListDetails extends Details {
  /** What a system remarks on its own facts. */
  record OfSystem(int system, Remark remark) implements ListDetails {}

  /**
   * A sensitive place that everyone can read.
   *
   * @param path the place
   * @param closed how many of its siblings are not open
   * @param siblings how many there are, itself among them; 0 where the workspace calls it sensitive
   */
  record OpenToAll(int system, String path, int closed, int siblings) implements ListDetails {}

  /**
   * An id kept from an earlier directory that is still named.
   *
   * @param bearer whose id it is
   * @param entries how many entries name it
   */
  record FormerId(String sid, String bearer, int entries) implements ListDetails {}

  /**
   * An entry of a list that another covers.
   *
   * @param entry the entry in words of its rights
   * @param objects how many objects have it
   */
  record CoveredEntry(String object, ListedEntry entry, int objects) implements ListDetails {}

  /**
   * What a list above hands on and did not arrive.
   *
   * @param above the object above
   * @param first the first entry that is missing
   * @param missing how many are
   * @param objects how many objects do not have them
   */
  record NotHandedOn(String object, String above, ListedEntry first, int missing, int objects)
      implements ListDetails {}

  /**
   * A list whose order decides what some accounts may do.
   *
   * @param accounts how many
   * @param objects how many objects have the list
   */
  record Order(String object, int accounts, int objects) implements ListDetails {}

  /**
   * A person who owns objects of a directory.
   *
   * @param object the first of them
   * @param objects how many
   * @param below how many objects are below the first
   */
  record PersonOwns(int account, String object, int objects, int below) implements ListDetails {}
}
