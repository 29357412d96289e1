package org.sobercompass.core.proposal;

import java.util.ArrayList;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.key.Key;
import org.sobercompass.core.system.Change;
import org.sobercompass.core.system.Setting;

/**
 * Steps in the order in which they are to be made. Immutable.
 *
 * @param name what it is called, or empty
 */
public record Proposal(String name, List<Step> steps) {
  /** Copies. */
  public Proposal {
    steps = List.copyOf(steps);
  }

  /**
   * What of it can be laid over a model. O(steps x groups of a member), and for each application
   * that is named O(its assignments).
   */
  public Bound on(AccessModel model) {
    return new Binder(model).bind(this);
  }

  /** The accounts and groups that it creates. */
  public List<Step.Presence> created() {
    return steps.stream()
        .filter(step -> step instanceof Step.Presence presence && presence.created())
        .map(Step.Presence.class::cast)
        .toList();
  }

  /** The accounts and groups that it deletes. */
  public List<Key> deleted() {
    return steps.stream()
        .filter(step -> step instanceof Step.Presence presence && !presence.created())
        .map(step -> ((Step.Presence) step).subject())
        .toList();
  }

  /** The settings that it writes otherwise, by the id of the system, in order. */
  public Map<String, List<Setting>> settings() {
    Map<String, List<Setting>> all = new LinkedHashMap<>();
    for (Step step : steps) {
      if (step instanceof Step.Setting setting) {
        all.computeIfAbsent(setting.system(), s -> new ArrayList<>())
            .add(new Setting(setting.path(), setting.is()));
      }
    }
    return all;
  }

  /**
   * The same, where an assignment that is there and only switched otherwise gives way to the one
   * that is given, so that it is not there twice. O(steps + assignments of what they name).
   *
   * @param model with its delegated administration, where admin roles are given
   */
  public Proposal switching(AccessModel model) {
    Lookup lookup = new Lookup(model, unknown -> {});
    Set<Step> known = new LinkedHashSet<>(steps);
    List<Step> all = new ArrayList<>();
    for (Step step : steps) {
      if (step instanceof Step.Assign assign) {
        Step.Assignment other = assign.what().switched(!assign.what().on());
        Step gone = new Step.Withdraw(other);
        lookup
            .withRoles(other.application())
            .filter(view -> lookup.given(view).containsKey(other) && known.add(gone))
            .ifPresent(view -> all.add(gone));
      }
      all.add(step);
    }
    return new Proposal(name, all);
  }

  /** This one, then another, under the name of the first that has one. */
  public Proposal then(Proposal next) {
    List<Step> all = new ArrayList<>(steps);
    all.addAll(next.steps);
    return new Proposal(name.isEmpty() ? next.name : name, all);
  }

  /** What takes all of it back, the last step first. */
  public Proposal inverse() {
    List<Step> back = new ArrayList<>();
    steps.forEach(step -> back.add(step.inverse()));
    Collections.reverse(back);
    return new Proposal(name.isEmpty() ? "" : name + ", taken back", back);
  }

  /**
   * The steps that changes of a model come to, one each.
   *
   * @param model with its delegated administration, where changes are of it
   */
  public static Proposal of(String name, AccessModel model, List<Change> changes) {
    Steps steps = new Steps(model);
    return new Proposal(name, changes.stream().map(steps::of).toList());
  }
}
