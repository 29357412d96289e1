package org.sobercompass.sources.files;

import org.sobercompass.core.amendment.LiveTarget;

/** Something of this machine that is changed as whoever runs this program. */
abstract class HostTarget implements LiveTarget {
  private final String reached;

  /**
   * A part of this machine.
   *
   * @param reached which, in words
   */
  HostTarget(String reached) {
    this.reached = reached;
  }

  @Override
  public String identity() {
    return System.getProperty("user.name", "");
  }

  @Override
  public String reached() {
    return reached;
  }

  @Override
  public void close() {
    // Nothing is held open.
  }
}
