package org.sobercompass.core.access;

import java.util.List;
import org.sobercompass.core.membership.Memberships;
import org.sobercompass.core.system.AccessSystem;
import org.sobercompass.core.system.Admission;
import org.sobercompass.core.system.Basis;
import org.sobercompass.core.system.Decider;
import org.sobercompass.core.system.Grant;
import org.sobercompass.core.system.Resources;
import org.sobercompass.core.system.Rights;

/**
 * One system of a model, with the memberships as it counts them and the decider of the basis in
 * use.
 *
 * @param number its number in the model
 * @param system the system
 * @param basis which grants are used
 * @param memberships shared by all systems that count alike
 * @param context equal numbers share memberships
 * @param decider over the grants of the basis
 */
public record SystemView(
    int number,
    AccessSystem system,
    Basis basis,
    Memberships memberships,
    int context,
    Decider decider) {

  /** The id of the system. */
  public String id() {
    return system.id();
  }

  /** The rights of the system. */
  public Rights rights() {
    return system.rights();
  }

  /** The resources of the system. */
  public Resources resources() {
    return system.resources();
  }

  /** The admission of the system. */
  public Admission admission() {
    return system.admission();
  }

  /** The grants of the basis that somebody gives one by one; none of a system of lists. */
  public List<Grant> assigned() {
    return system.assigned(basis);
  }

  /** The grants of the basis. */
  public List<Grant> grants() {
    return system.grants(basis);
  }
}
