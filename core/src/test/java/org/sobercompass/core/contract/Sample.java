package org.sobercompass.core.contract;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.Asker;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.store.IntList;
import org.sobercompass.core.system.Token;
import org.sobercompass.core.system.Verdict;

/**
 * A random organization with one system, and what a plain program says about it.
 *
 * @param model the organization
 * @param naive the plain program
 */
public record Sample(AccessModel model, Naive naive) {

  /**
   * The rules of one kind of system as a program: sets, loops, nothing shared with the real one.
   */
  @FunctionalInterface
  public interface Naive {
    /** Whether an account holds a right on a resource. */
    Verdict decide(int account, int right, int resource);
  }

  /** The same for somebody whose memberships are all known. */
  @FunctionalInterface
  public interface Certain {
    /**
     * Whether an account that counts as these subjects holds a right on a resource; undecided where
     * a list was not read, say.
     */
    Verdict decide(int account, Set<Integer> subjects, int right, int resource);
  }

  /** A sample whose plain program takes each unknown membership once as there, once as not. */
  public static Sample of(AccessModel model, Certain certain) {
    SystemView view = model.systems().get(0);
    Asker asker = model.asker();
    return new Sample(
        model,
        (account, right, resource) -> {
          Token token = asker.token(view, account);
          List<Integer> open = list(token.subjects().perhaps());
          Set<Verdict> seen = new HashSet<>();
          for (int some = 0; some < 1 << open.size(); some++) {
            Set<Integer> subjects = new HashSet<>(list(token.subjects().sure()));
            for (int i = 0; i < open.size(); i++) {
              if ((some >> i & 1) != 0) {
                subjects.add(open.get(i));
              }
            }
            seen.add(
                subjects.contains(account)
                    ? certain.decide(account, subjects, right, resource)
                    : Verdict.NO);
          }
          return seen.size() == 1 ? seen.iterator().next() : Verdict.UNDECIDED;
        });
  }

  /** The numbers of a list. */
  static List<Integer> list(IntList numbers) {
    List<Integer> all = new ArrayList<>();
    for (int i = 0; i < numbers.size(); i++) {
      all.add(numbers.get(i));
    }
    return all;
  }

  SystemView view() {
    return model.systems().get(0);
  }
}
