package org.sobercompass.core.system;

/**
 * A way by which an account can come to everything in a system, by the system's own rules.
 *
 * @param account who can
 * @param by the subject by which it comes there: a role that it may switch to, say
 * @param how the steps, in words
 */
public record Climb(int account, int by, String how) {}
