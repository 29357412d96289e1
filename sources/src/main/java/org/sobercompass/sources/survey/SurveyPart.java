package org.sobercompass.sources.survey;

import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.sobercompass.core.problem.Completeness;

/**
 * One part of a survey: what was read from one source, when, from where and as whom.
 *
 * @param name the source's name in the workspace
 * @param how {@code ldap} when read live, {@code file} when an export was taken over
 * @param place the address or file
 * @param identity as whom the server knew us; empty for a file
 * @param protection how the connection was protected; empty for a file
 * @param started when reading began
 * @param ended when it ended; for an export when it says it was taken
 * @param dated whether {@code ended} is known; an export need not say when it was taken
 * @param changes the server's counter of changes before and after, where it shows one
 * @param entries how many entries
 * @param bases what was read
 * @param referrals where the source says there is more
 * @param moved entries that moved or changed meanwhile
 * @param completeness what came in, by attribute
 * @param file where its entries stand in the archive
 * @param schema where the directory's schema stands in the archive, if it was read
 */
public record SurveyPart(
    String name,
    String how,
    String place,
    String identity,
    String protection,
    Instant started,
    Instant ended,
    boolean dated,
    List<String> changes,
    int entries,
    List<String> bases,
    List<String> referrals,
    List<String> moved,
    List<Completeness> completeness,
    String file,
    Optional<String> schema) {}
