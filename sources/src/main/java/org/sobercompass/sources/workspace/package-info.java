/**
 * The workspace: compass.yaml and what it names; surveys of it.
 *
 * <p>In: a folder, or a survey. Out: what must be read, then facts, systems, persons and rules; an
 * access model at a point in time; a new survey; its files changed by an amendment; its mapping
 * alone, over a part of the facts. All problems of all files are told in one go.
 */
@NullMarked
package org.sobercompass.sources.workspace;

import org.jspecify.annotations.NullMarked;
