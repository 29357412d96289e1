package org.sobercompass.sources;

import java.util.List;
import java.util.Optional;
import org.sobercompass.core.system.files.FileStyle;
import org.sobercompass.sources.database.DatabaseFormat;
import org.sobercompass.sources.files.FileFormat;
import org.sobercompass.sources.roles.RoleFormat;

/** All kinds of system that are registered. */
public final class SystemFormats {
  /** The registrations. */
  public static final List<SystemFormat> ALL =
      List.of(
          new RoleFormat(),
          new FileFormat(FileStyle.SHARED),
          new FileFormat(FileStyle.NFS4),
          new FileFormat(FileStyle.POSIX),
          new DatabaseFormat());

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
