package org.sobercompass.sources;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.ServiceLoader;
import org.sobercompass.core.amendment.Amendment;
import org.sobercompass.core.amendment.AmendmentRecord;

/** All ways of changing systems that are registered. */
public final class TargetKinds {
  private static final List<TargetKind> ALL =
      ServiceLoader.load(TargetKind.class).stream().map(ServiceLoader.Provider::get).toList();

  private TargetKinds() {}

  /** The registration with a word. */
  public static Optional<TargetKind> of(String id) {
    return ALL.stream().filter(kind -> kind.form().id().equals(id)).findFirst();
  }

  /** What is lost for good by making records of an amendment, in words. */
  public static List<String> losses(Amendment amendment, List<AmendmentRecord> records) {
    List<String> losses = new ArrayList<>();
    for (AmendmentRecord record : records) {
      amendment
          .target(record.target())
          .flatMap(target -> of(target.kind()))
          .ifPresent(kind -> losses.addAll(kind.losses(record)));
    }
    return losses;
  }
}
