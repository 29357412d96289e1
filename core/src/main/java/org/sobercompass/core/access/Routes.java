package org.sobercompass.core.access;

import java.util.List;
import org.sobercompass.core.system.Decision;

/**
 * Why an account can or cannot do something.
 *
 * @param can the answer
 * @param decision the verdict with its proofs
 * @param open the routes that give the right, shortest first
 * @param stopped the routes that would give it but are stopped
 * @param more whether a limit left some out
 */
public record Routes(
    Can can, Decision decision, List<Route> open, List<Route.StoppedRoute> stopped, boolean more) {}
