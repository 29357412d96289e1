package org.sobercompass.sources.scim;

import java.util.List;
import java.util.Optional;
import org.sobercompass.core.amendment.Difference;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.key.Key;
import org.sobercompass.core.proposal.Step;
import org.sobercompass.sources.Drafts;
import org.sobercompass.sources.SourceKind;

/** Makes changes of SCIM resources of steps: members of groups, and whether a user is active. */
final class ScimAmending {
  /** The members of a group, by their ids (RFC 7643 section 4.2). */
  static final String MEMBERS = "members";

  /** Whether a user is active (RFC 7643 section 4.1.1). */
  static final String ACTIVE = "active";

  private final String directory;
  private final Facts facts;

  ScimAmending(SourceKind.Wanted wanted) {
    this.directory = wanted.directory();
    this.facts = wanted.facts();
  }

  void make(SourceKind.Wish wish, Drafts into) {
    if (wish.what() instanceof Step.Join join) {
      String member = id(join.member());
      add(wish, join.group(), new Difference(MEMBERS, List.of(), List.of(member)), into);
    } else if (wish.what() instanceof Step.Leave leave) {
      String member = id(leave.member());
      add(wish, leave.group(), new Difference(MEMBERS, List.of(member), List.of()), into);
    } else if (wish.what() instanceof Step.Disable disable) {
      List<String> off = List.of("false");
      List<String> on = List.of("true");
      Difference active =
          disable.disabled() ? new Difference(ACTIVE, on, off) : new Difference(ACTIVE, off, on);
      add(wish, disable.account(), active, into);
    } else {
      into.byHand(
          wish.step(), "over SCIM only members are changed, and whether an account is active");
    }
  }

  private void add(SourceKind.Wish wish, Key key, Difference difference, Drafts into) {
    Optional<Integer> subject = facts.find(key);
    if (subject.isEmpty()) {
      into.byHand(wish.step(), "it is not there");
    } else {
      into.add(wish.step(), directory, ScimTargetKind.ID, facts.dn(subject.get()), difference);
    }
  }

  /** The id of a resource, which is what its path ends with. */
  private String id(Key key) {
    return facts.find(key).map(facts::dn).orElse("").replaceFirst("^[^/]*/", "");
  }
}
