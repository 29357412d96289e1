package org.sobercompass.core.findings.details;

import java.util.List;
import java.util.Optional;
import org.sobercompass.core.access.Route;
import org.sobercompass.core.admin.Reach;
import org.sobercompass.core.delegation.Origin;
import org.sobercompass.core.system.Grant;
import org.sobercompass.core.system.remark.ListedEntry;

/**
 * What shows a finding: a route, or something that stands somewhere, as data. {@code in} is the
 * number of the system where it stands. Immutable.
 */
public sealed interface Evidence {
  /** The number of the system whose route it is, or -1. */
  default int system() {
    return -1;
  }

  /** The route, where it is one. */
  default Optional<Route> route() {
    return Optional.empty();
  }

  /** A route of an account to a right of a system. */
  record OfRoute(int system, Route shown) implements Evidence {
    @Override
    public Optional<Route> route() {
      return Optional.of(shown);
    }
  }

  /** An assignment of an application, with where it is stated. */
  record Assigned(int in, Grant grant) implements Evidence {}

  /** An entry of a list of files or a database. */
  record Entry(int in, Grant grant) implements Evidence {}

  /** Memberships, from a member to what it counts as. */
  record Chain(List<Integer> subjects) implements Evidence {}

  /** Groups each of which is a member of the next. */
  record Circle(List<Integer> groups) implements Evidence {}

  /** A member that does not exist, as it is listed. */
  record MissingMember(String attribute, String text) implements Evidence {}

  /** An account that has not used what it is given. */
  record NotUsedBy(int account) implements Evidence {}

  /** What is used of a role. */
  record Used(int in, List<Integer> rights) implements Evidence {}

  /** A right that an account does not hold although an assignment would give it. */
  record Lost(int account, int in, int right, int resource, Grant by) implements Evidence {}

  /** Lists that name an account or a group of it. */
  record NamedInLists(int in, int account) implements Evidence {}

  /** An admin role that reaches an account. */
  record AdminRole(String role, String over, int through) implements Evidence {}

  /**
   * Something delegated that reaches an account.
   *
   * @param through the subject that is named; below 0 where only its id is known
   */
  record Delegated(String may, String object, int through, String sid) implements Evidence {}

  /** The shell that an account signs in with. */
  record Shell(String shell) implements Evidence {}

  /** A power that an account has. */
  record CanDo(String power) implements Evidence {}

  /** An account that may sign in from anywhere. */
  record NoHosts(int account) implements Evidence {}

  /** The steps by which an account comes to a power. */
  record Steps(int account, List<Reach.Step> steps) implements Evidence {}

  /** The steps by which an account could give itself the other side of a rule. */
  record StepsToSide(List<Reach.Step> steps) implements Evidence {}

  /** Why an account is in a scope. */
  record InScope(int account, String reason) implements Evidence {}

  /** A way in which administrators can widen their scope. */
  record Widening(Who who, String how) implements Evidence {}

  /** Who connects without protection. */
  record Unprotected(String whose) implements Evidence {}

  /** What an account that only has to read can do besides. */
  record CanBesides(SourceDetails.Besides what) implements Evidence {}

  /** Within how many days an emergency account is to be tried. */
  record TrialExpected(int days) implements Evidence {}

  /** An entry that names an id kept from an earlier directory. */
  record NamesFormerId(String object, String sid) implements Evidence {}

  /** A place where everyone who can sign in has a right. */
  record OpenPlace(int in, String path, int right) implements Evidence {}

  /** An assignment of an admin role: where it is stated, and from when until when. */
  record AdminAssigned(AdminGrantDetails.Assigned what, String place, long from, long until)
      implements Evidence {}

  /** A line of what is delegated on an object; no object is the whole directory. */
  record DelegatedOn(String directory, String object, String may, String trustee, Origin origin)
      implements Evidence {}

  /** An entry of a list that is missing there. */
  record MissingEntry(ListedEntry entry) implements Evidence {}

  /** An entry of a list, and where it comes from. */
  record EntryFrom(Origin origin, ListedEntry entry) implements Evidence {}

  /** How many accounts can, or cannot, do something only by the order of a list. */
  record ByOrder(int accounts, boolean can, String action) implements Evidence {}

  /** An object and its owner. */
  record OwnerOf(String object, int account) implements Evidence {}

  /** A side of a rule that is an admin action: what lets an account do it. */
  record CanAct(String how) implements Evidence {}

  /** A side of a rule that an account perhaps can do. */
  record PerhapsCanAct(int account, String action) implements Evidence {}

  /** The roles through which a role contains a side of a rule, and the entry that gives it. */
  record RoleContains(List<String> roles, String entry) implements Evidence {}
}
