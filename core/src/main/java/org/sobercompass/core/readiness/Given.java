package org.sobercompass.core.readiness;

import java.util.BitSet;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.membership.Memberships;
import org.sobercompass.core.membership.SubjectSet;
import org.sobercompass.core.store.IntList;
import org.sobercompass.core.store.IntRows;

/**
 * In which systems somebody meant an account to have something, whether it counts there or not: a
 * grant names the account, or a group that it is in by the widest memberships. Keeps the walk of
 * one account at a time; not thread-safe.
 */
public final class Given {
  private final IntRows systemsOf;
  private final BitSet toAll = new BitSet();
  private final Memberships.Walker walker;
  private final SubjectSet subjects = new SubjectSet();
  private final BitSet found = new BitSet();

  /** Over a model. O(trustees). */
  public Given(AccessModel model) {
    Facts facts = model.facts();
    IntList subject = new IntList();
    IntList system = new IntList();
    int firstImplicit = facts.firstGroup() + facts.groups();
    for (SystemView view : model.systems()) {
      IntList trustees = view.decider().trustees();
      for (int i = 0; i < trustees.size(); i++) {
        boolean implicit = trustees.get(i) >= firstImplicit && trustees.get(i) < facts.firstUnit();
        if (implicit) {
          toAll.set(view.number());
        } else {
          subject.add(trustees.get(i));
          system.add(view.number());
        }
      }
    }
    systemsOf = IntRows.ofPairs(facts.subjects(), subject, system);
    model.widest().prepare();
    walker = model.widest().walker();
  }

  /**
   * The numbers of the systems; valid until the next call. Systems that give something to an
   * implicit group are always among them.
   */
  public BitSet systems(int account) {
    found.clear();
    found.or(toAll);
    walker.subjects(account, subjects);
    IntList sure = subjects.sure();
    for (int i = 0; i < sure.size(); i++) {
      for (int at = systemsOf.start(sure.get(i)); at < systemsOf.end(sure.get(i)); at++) {
        found.set(systemsOf.at(at));
      }
    }
    return found;
  }

  /** Whether a system gives something to an implicit group, whoever the account is. */
  public boolean toAll(SystemView view) {
    return toAll.get(view.number());
  }
}
