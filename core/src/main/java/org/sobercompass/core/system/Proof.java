package org.sobercompass.core.system;

import java.util.List;

/**
 * A conjunction of facts, and of absences it needs, that gives a right.
 *
 * @param grant the grant the right comes by
 * @param right the right it gives, of those asked for
 * @param present facts that must be there
 * @param absent facts that must not
 */
public record Proof(int grant, int right, List<FactRef> present, List<FactRef> absent) {}
