package org.sobercompass.report.findings;

/**
 * Where a system remarks something.
 *
 * @param names the names of the model
 * @param system the number of the system
 * @param resource the number of the resource
 */
record Place(Naming names, int system, int resource) {
  /** The resource itself. */
  String path() {
    return path(resource);
  }

  /** A resource of the system. */
  String path(int other) {
    return names.view(system).resources().id(other);
  }

  /** A right of the system. */
  String right(int right) {
    return names.right(system, right);
  }
}
