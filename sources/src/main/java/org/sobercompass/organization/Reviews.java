package org.sobercompass.organization;

import java.util.List;
import java.util.Set;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.core.review.Review;
import org.sobercompass.core.review.ReviewPlan;

/** Reviews of an organization: what is to be confirmed, and by whom. */
public final class Reviews {
  /**
   * The attributes that a workspace must be opened with so that managers are known ({@code
   * manager}, RFC 4524 section 2.10).
   */
  public static final Set<String> ATTRIBUTES = Set.of("manager");

  private Reviews() {}

  /**
   * What is to be confirmed by whom. O(grants + memberships + findings).
   *
   * @param findings the open findings, for what is unusual
   * @param earlier the ids of the items at an earlier survey; empty when there is none
   */
  public static Review of(Organization organization, List<Finding> findings, Set<String> earlier) {
    return new ReviewPlan(
            organization.assessment(),
            findings,
            organization.owners(),
            List.copyOf(ATTRIBUTES),
            earlier)
        .make();
  }
}
