package org.sobercompass.sources.live;

import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.sobercompass.core.problem.Completeness;
import org.sobercompass.sources.directory.DirectorySchema;

/**
 * How a directory was read.
 *
 * @param identity as whom the server knew us
 * @param started when reading began
 * @param ended when it ended
 * @param before the server's counter of changes when it began, if it shows one
 * @param after the same when it ended
 * @param entries how many entries were written
 * @param bases what was read
 * @param referrals where the directory says there is more; not followed
 * @param moved entries that were met twice under two names, or changed while they were read
 * @param attempts how many connections it took
 * @param completeness what came in, by attribute
 * @param schema what the directory publishes of its schema; empty when it may not be read
 */
public record Collected(
    String identity,
    Instant started,
    Instant ended,
    Optional<String> before,
    Optional<String> after,
    int entries,
    List<String> bases,
    List<String> referrals,
    List<String> moved,
    int attempts,
    List<Completeness> completeness,
    Optional<DirectorySchema> schema) {}
