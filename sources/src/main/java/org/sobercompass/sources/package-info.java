/**
 * Readers: one room for each format or protocol, and the workspace that joins them.
 *
 * <p>In: files, and directories and services over the wire. Out: core's facts and systems, with all
 * problems of a file in one go; surveys; amendments, carried out where they are to be. Here stand
 * the registrations that the rooms of the formats implement; nobody sees those rooms but by them.
 */
@NullMarked
package org.sobercompass.sources;

import org.jspecify.annotations.NullMarked;
