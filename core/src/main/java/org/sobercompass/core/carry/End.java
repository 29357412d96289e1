package org.sobercompass.core.carry;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.Asker;
import org.sobercompass.core.access.Holding;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.membership.Sight;
import org.sobercompass.core.proposal.Proposal;
import org.sobercompass.core.proposal.ReadyMade;
import org.sobercompass.core.proposal.Step;

/**
 * The end of a directory from which rights were carried: everything that its accounts have by name
 * goes, and they are disabled.
 *
 * @param proposal what ends it
 * @param without accounts without an accepted counterpart that can still do something, and in how
 *     many ways in which systems, by number
 * @param blind systems that look at no other directory, by number
 * @param left what the proposal leaves alone, in words
 */
public record End(
    Proposal proposal,
    Map<Integer, Map<Integer, Integer>> without,
    List<Integer> blind,
    List<String> left) {

  /**
   * Of the accounts of a directory. O(accounts x their holdings).
   *
   * @param counterparts who has an accepted counterpart; the others are left as they are
   */
  public static End of(AccessModel model, String directory, Map<Integer, Integer> counterparts) {
    Facts facts = model.facts();
    List<Integer> ends = new ArrayList<>();
    Map<Integer, Map<Integer, Integer>> without = new LinkedHashMap<>();
    Asker asker = model.asker();
    for (int account = 0; account < facts.accounts(); account++) {
      if (!facts.source(account).equals(directory)) {
        continue;
      }
      if (counterparts.containsKey(account)) {
        ends.add(account);
        continue;
      }
      Map<Integer, Integer> counts = new LinkedHashMap<>();
      for (SystemView view : model.systems()) {
        List<Holding> held = asker.holdings(view, account);
        if (!view.admission().isOpen() && !held.isEmpty()) {
          counts.put(view.number(), held.size());
        }
      }
      if (!counts.isEmpty() && !facts.is(account, Facts.DISABLED)) {
        without.put(account, counts);
      }
    }
    ReadyMade made = new ReadyMade(model);
    List<Step> steps = new ArrayList<>(made.leaving(ends).steps());
    for (int account : ends) {
      if (!facts.is(account, Facts.DISABLED)) {
        steps.add(new Step.Disable(facts.key(account), true));
      }
    }
    return new End(
        new Proposal("the end of " + directory, steps),
        without,
        model.systems().stream()
            .filter(view -> isBlind(view.system().sight(), directory))
            .map(SystemView::number)
            .toList(),
        made.left());
  }

  private static boolean isBlind(Sight sight, String directory) {
    return sight.directory().equals(directory) && sight.also().isEmpty();
  }
}
