package org.sobercompass.sources;

import java.util.List;
import java.util.Optional;
import java.util.ServiceLoader;

/** All ways of changing systems that are registered. */
public final class TargetKinds {
  private static final List<TargetKind> ALL =
      ServiceLoader.load(TargetKind.class).stream().map(ServiceLoader.Provider::get).toList();

  private TargetKinds() {}

  /** The registration with a word. */
  public static Optional<TargetKind> of(String id) {
    return ALL.stream().filter(kind -> kind.form().id().equals(id)).findFirst();
  }
}
