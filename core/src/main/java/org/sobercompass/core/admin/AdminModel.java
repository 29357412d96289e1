package org.sobercompass.core.admin;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;
import java.util.Optional;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.membership.Memberships;
import org.sobercompass.core.membership.SubjectSet;
import org.sobercompass.core.scope.AdminGrant;
import org.sobercompass.core.scope.Scopes;
import org.sobercompass.core.store.IntList;

/**
 * What administrators can do by the admin roles of a workspace, at a point in time. Not
 * thread-safe.
 */
public final class AdminModel {
  private final AccessModel model;
  private final Administration administration;
  private final Scopes scopes;
  private final Memberships.Walker walker;
  private final SubjectSet subjects = new SubjectSet();
  private int account = -1;

  /** Over a model, with the scopes as they stand there. */
  AdminModel(AccessModel model, Administration administration, Scopes scopes) {
    this.model = model;
    this.administration = administration;
    this.scopes = scopes;
    this.walker = model.widest().walker();
  }

  /** The definitions. */
  public Administration administration() {
    return administration;
  }

  /** The scopes, worked out. */
  public Scopes scopes() {
    return scopes;
  }

  /** The grants of an account or a group of it, by number, whether they hold or not. */
  public List<Integer> grantsOf(int who) {
    load(who);
    List<Integer> found = new ArrayList<>();
    for (int g = 0; g < administration.grants().size(); g++) {
      int subject = administration.grants().get(g).subject();
      if (subject >= 0 && subjects.sure().contains(subject)) {
        found.add(g);
      }
    }
    return found;
  }

  private boolean holds(AdminGrant grant) {
    return grant.activeAt(model.asOf().getEpochSecond());
  }

  private boolean has(AdminGrant grant, String action) {
    return administration.roles().get(grant.role()).actions().contains(action);
  }

  private void load(int who) {
    if (account != who) {
      walker.subjects(who, subjects);
      account = who;
    }
  }

  /** The accounts that are set over a scope now, by themselves or by a group. */
  public BitSet administrators(int scope) {
    BitSet accounts = new BitSet();
    IntList found = new IntList();
    for (AdminGrant grant : administration.grants()) {
      if (grant.scope() == scope && grant.subject() >= 0 && holds(grant)) {
        found.clear();
        walker.accounts(grant.subject(), found);
        for (int i = 0; i < found.size(); i++) {
          accounts.set(found.get(i));
        }
      }
    }
    return accounts;
  }

  /** How near a no is to a yes. */
  public enum Nearness {
    /** It has the action, over a scope without the object. */
    OTHER_SCOPE,
    /** It has a role over a scope with the object, without the action. */
    OTHER_ACTION,
    /** It would have it, but not now. */
    NOT_NOW,
    /** It has no admin role at all. */
    NO_ROLE
  }

  /**
   * Why not.
   *
   * @param nearness how near it is
   * @param grant the grant that is nearest, if there is one
   */
  public record Miss(Nearness nearness, Optional<Integer> grant) {}

  /** The nearest miss of an account that cannot do an action to an object. */
  public Miss miss(int who, String action, int object) {
    List<Integer> own = grantsOf(who);
    for (Nearness nearness : Nearness.values()) {
      for (int g : own) {
        AdminGrant grant = administration.grants().get(g);
        boolean fits =
            switch (nearness) {
              case OTHER_SCOPE ->
                  holds(grant) && has(grant, action) && !scopes.contains(grant.scope(), object);
              case OTHER_ACTION ->
                  holds(grant) && !has(grant, action) && scopes.contains(grant.scope(), object);
              case NOT_NOW ->
                  !holds(grant) && has(grant, action) && scopes.contains(grant.scope(), object);
              case NO_ROLE -> false;
            };
        if (fits) {
          return new Miss(nearness, Optional.of(g));
        }
      }
    }
    return new Miss(Nearness.NO_ROLE, Optional.empty());
  }

  /** The objects an account can do an action to. */
  public BitSet objects(int who, String action) {
    BitSet objects = new BitSet();
    for (int g : grantsOf(who)) {
      AdminGrant grant = administration.grants().get(g);
      if (holds(grant) && has(grant, action)) {
        if (grant.scope() < 0) {
          objects.set(0, model.facts().subjects());
        } else {
          scopes.objects(grant.scope()).setIn(objects);
        }
      }
    }
    return objects;
  }

  /** The scopes over which an account has a role that holds. */
  public List<Integer> scopesOf(int who) {
    return grantsOf(who).stream()
        .map(administration.grants()::get)
        .filter(grant -> holds(grant) && grant.scope() >= 0)
        .map(AdminGrant::scope)
        .distinct()
        .sorted()
        .toList();
  }
}
