/** The heart: facts, memberships, deciders, answers, findings. No input or output, no clock. */
@NullMarked
package org.sobercompass.core;

import org.jspecify.annotations.NullMarked;
