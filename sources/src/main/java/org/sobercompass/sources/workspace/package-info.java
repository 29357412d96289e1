/**
 * The workspace: compass.yaml and what it names.
 *
 * <p>In: a folder. Out: what must be read, then facts, systems and rules; an access model at a
 * point in time. All problems of all files are told in one go.
 */
@NullMarked
package org.sobercompass.sources.workspace;

import org.jspecify.annotations.NullMarked;
