/**
 * The door for programs: an organization that was read, asked by the names that people use.
 *
 * <p>In: a workspace or a survey. Out: answers, findings, what a change would do; proposals read
 * from files, kept, written into the workspace's own files, and made into amendments; who of one
 * directory is who of another, and their rights carried over. {@link
 * org.sobercompass.organization.Organization} is where to begin.
 */
@NullMarked
package org.sobercompass.organization;

import org.jspecify.annotations.NullMarked;
