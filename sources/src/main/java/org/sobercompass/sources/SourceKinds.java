package org.sobercompass.sources;

import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.ServiceLoader;

/** All kinds of directory that are registered. */
public final class SourceKinds {
  /** The kind of a directory that does not say which. */
  public static final String USUAL = "standard";

  private static final List<SourceKind> ALL =
      ServiceLoader.load(SourceKind.class).stream().map(ServiceLoader.Provider::get).toList();

  private SourceKinds() {}

  /** The registration of a kind. */
  public static Optional<SourceKind> of(String id) {
    return ALL.stream().filter(k -> k.id().equals(id.toLowerCase(Locale.ROOT))).findFirst();
  }

  /** The registrations, in the order in which they are listed. */
  public static List<SourceKind> all() {
    return ALL;
  }
}
