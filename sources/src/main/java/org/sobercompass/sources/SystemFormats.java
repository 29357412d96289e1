package org.sobercompass.sources;

import java.util.List;
import java.util.Optional;
import java.util.ServiceLoader;

/** All kinds of system that are registered. */
public final class SystemFormats {
  private static final List<SystemFormat> ALL =
      ServiceLoader.load(SystemFormat.class).stream().map(ServiceLoader.Provider::get).toList();

  private SystemFormats() {}

  /** The registration of a kind. */
  public static Optional<SystemFormat> of(String kind) {
    return ALL.stream().filter(format -> format.kind().equals(kind)).findFirst();
  }

  /** The words of all kinds. */
  public static List<String> kinds() {
    return ALL.stream().map(SystemFormat::kind).toList();
  }
}
