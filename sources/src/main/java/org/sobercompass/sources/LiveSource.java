package org.sobercompass.sources;

import java.nio.file.Path;
import java.time.Clock;
import java.time.Duration;
import java.util.List;
import java.util.Optional;
import java.util.function.IntConsumer;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.sources.survey.SurveyPart;

/** A directory or service that is read over the wire. Immutable. */
public interface LiveSource {
  /** How long one answer may take, unless said otherwise. */
  Duration PATIENCE = Duration.ofSeconds(60);

  /** As whom it is read, where it has an entry of its own; else empty. */
  default Optional<String> readingAccount() {
    return Optional.empty();
  }

  /** Whether the connection is not protected. */
  boolean isPlain();

  /**
   * Reads everything into a file. Nothing is changed there.
   *
   * @param progress told how many entries were read so far
   * @throws org.sobercompass.core.problem.OutsideException when it cannot be read whole
   */
  Taken collect(Path content, Secret.Origins origins, Clock clock, IntConsumer progress);

  /**
   * Tries to reach it: one line of how it answered; empty where there is nothing to try.
   *
   * @param problems what does not work though it answers
   * @throws org.sobercompass.core.problem.OutsideException when it cannot be reached
   */
  default Optional<String> tried(Place place, Secret.Origins origins, List<Problem> problems) {
    return Optional.empty();
  }

  /**
   * What was read.
   *
   * @param part what is said of it in a survey
   * @param schema its schema as LDIF, where it publishes one
   */
  record Taken(SurveyPart part, Optional<String> schema) {}
}
