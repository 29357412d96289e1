package org.sobercompass.core.audit;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.admin.Powers;
import org.sobercompass.core.delegation.AdminAction;
import org.sobercompass.core.delegation.DirectoryTree;
import org.sobercompass.core.delegation.DirectoryTrees;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.findings.Assessment;
import org.sobercompass.core.findings.ObjectKeys;
import org.sobercompass.core.key.Key;
import org.sobercompass.core.removal.Effects;
import org.sobercompass.core.system.Change;
import org.sobercompass.core.system.Crowd;
import org.sobercompass.core.system.Question;
import org.sobercompass.core.system.Verdict;

/**
 * What a preview said, by keys that outlive the reading it was made of, to be held against a later
 * one. Immutable.
 *
 * @param rights what each account concerned can and cannot do afterwards
 * @param begin the keys of findings that there are then
 * @param end the keys of findings that there are not any more
 */
public record Foretold(List<Right> rights, List<String> begin, List<String> end) {
  /** Nothing was said. */
  public static final Foretold NOTHING = new Foretold(List.of(), List.of(), List.of());

  /** Copies. */
  public Foretold {
    rights = List.copyOf(rights);
    begin = List.copyOf(begin);
    end = List.copyOf(end);
  }

  /**
   * Whether an account can do something afterwards.
   *
   * @param account the text of its key
   * @param system the id of the system; empty for an admin action
   * @param what the permission, or the id of the admin action
   * @param where the id of the resource, or the text of the key of the object
   * @param verdict whether it can
   */
  public record Right(String account, String system, String what, String where, Verdict verdict) {}

  /** What is otherwise than was said, in the order of what was said. */
  public record Readback(List<Differs> rights, List<String> notBegun, List<String> notEnded) {
    /** Whether all came as was said. */
    public boolean isAsSaid() {
      return rights.isEmpty() && notBegun.isEmpty() && notEnded.isEmpty();
    }
  }

  /**
   * A right that is otherwise.
   *
   * @param now what it is; empty when something that is named is not there any more
   */
  public record Differs(Right said, Optional<Verdict> now) {}

  /** What a preview of changes says; the changes are over what was judged. */
  public static Foretold of(Assessment before, List<Change> changes, Preview preview) {
    Asking after = new Asking(before.with(changes));
    AccessModel model = before.model();
    List<Right> all = new ArrayList<>();
    List<Effects.Effect> effects = new ArrayList<>(preview.effects().gives());
    effects.addAll(preview.effects().ends());
    for (Effects.Effect effect : effects) {
      SystemView view = model.systems().get(effect.system());
      all.add(
          after.asked(
              model.facts().key(effect.account()).text(),
              view.id(),
              view.rights().text(effect.right()),
              view.resources().id(effect.resource())));
    }
    List<ActEffects.Act> acts = new ArrayList<>(preview.acts().gives());
    acts.addAll(preview.acts().ends());
    for (ActEffects.Act act : acts) {
      all.add(
          after.asked(
              model.facts().key(act.account()).text(), "", act.action().id(), act.object().text()));
    }
    return new Foretold(
        all,
        preview.begin().stream().map(finding -> finding.key().text()).toList(),
        preview.end().stream().map(finding -> finding.key().text()).toList());
  }

  /** Whether nothing was said. */
  boolean isNothing() {
    return rights.isEmpty() && begin.isEmpty() && end.isEmpty();
  }

  /** Only that of it which is otherwise. */
  Foretold only(Readback otherwise) {
    return new Foretold(
        otherwise.rights.stream().map(Differs::said).toList(),
        otherwise.notBegun,
        otherwise.notEnded);
  }

  /** Holds what was said against what is judged now. O(findings + rights said). */
  public Readback against(Assessment now) {
    Asking asking = new Asking(now);
    List<Differs> otherwise = new ArrayList<>();
    for (Right right : rights) {
      Optional<Verdict> verdict = asking.verdict(right);
      if (verdict.filter(right.verdict::equals).isEmpty()) {
        otherwise.add(new Differs(right, verdict));
      }
    }
    Set<String> there = new HashSet<>();
    Findings.of(now).forEach(finding -> there.add(finding.key().text()));
    return new Readback(
        otherwise,
        begin.stream()
            .filter(key -> !there.contains(key) && !there.contains(asking.now(key)))
            .toList(),
        end.stream().filter(there::contains).toList());
  }

  /** Answers by keys. Not thread-safe. */
  private static final class Asking {
    private final AccessModel model;
    private final Powers powers;
    private final Map<String, Integer> accounts = new HashMap<>();
    private final Map<String, Powers.Thing> things = new HashMap<>();
    private final Map<List<String>, Crowd> crowds = new HashMap<>();

    Asking(Assessment of) {
      this.model = of.model();
      this.powers = of.powers();
      Facts facts = model.facts();
      for (int account = 0; account < facts.accounts(); account++) {
        accounts.put(facts.key(account).text(), account);
      }
    }

    Right asked(String account, String system, String what, String where) {
      Right right = new Right(account, system, what, where, Verdict.UNDECIDED);
      return new Right(account, system, what, where, verdict(right).orElse(Verdict.UNDECIDED));
    }

    Optional<Verdict> verdict(Right right) {
      Optional<Integer> account = account(right.account);
      if (account.isEmpty()) {
        // Who is not there can do nothing, where it is known that nobody was left out.
        return Key.read(right.account)
            .filter(key -> model.facts().arrays().sources().contains(key.source()))
            .map(key -> Verdict.NO);
      }
      return right.system.isEmpty() ? act(account.get(), right) : use(account.get(), right);
    }

    /** Who was created since bears an id now; until then the DN was the key. */
    private Optional<Integer> account(String text) {
      return Optional.ofNullable(accounts.get(text))
          .or(() -> Key.read(text).flatMap(model.facts()::find));
    }

    /** A finding by its key now, where its cause was created since. */
    String now(String finding) {
      for (SubjectKind kind : List.of(SubjectKind.ACCOUNT, SubjectKind.GROUP)) {
        int at = finding.indexOf(kind.keyKind().word() + ":");
        Optional<Integer> cause =
            at < 0
                ? Optional.empty()
                : Key.read(finding.substring(at)).flatMap(model.facts()::find);
        if (cause.isPresent()) {
          return finding.substring(0, at) + model.facts().key(cause.get()).text();
        }
      }
      return finding;
    }

    private Optional<Verdict> use(int account, Right right) {
      Optional<SystemView> view = model.system(right.system);
      Optional<Integer> what = view.flatMap(v -> v.rights().find(right.what));
      Optional<Integer> where = view.flatMap(v -> v.resources().find(right.where));
      return what.isPresent() && where.isPresent()
          ? Optional.of(
              model
                  .asker()
                  .can(view.orElseThrow(), account, Question.of(where.get(), what.get()))
                  .verdict())
          : Optional.empty();
    }

    private Optional<Verdict> act(int account, Right right) {
      if (things.isEmpty()) {
        things();
      }
      Optional<Powers.Thing> object =
          Optional.ofNullable(things.get(right.where))
              .or(() -> Key.read(right.where).flatMap(model.facts()::find).map(powers::thing));
      Optional<AdminAction> action =
          powers.roles().administration().actions().stream()
              .filter(one -> one.id().equals(right.what))
              .findFirst();
      if (object.isEmpty() || action.isEmpty()) {
        return Optional.empty();
      }
      Crowd crowd =
          crowds.computeIfAbsent(
              List.of(right.what, right.where),
              key -> powers.who(action.get(), object.get(), Optional.empty()));
      return Optional.of(
          crowd.yes().get(account)
              ? Verdict.YES
              : crowd.perhaps().get(account) ? Verdict.UNDECIDED : Verdict.NO);
    }

    /** What admin actions are done to, by its key. */
    private void things() {
      Facts facts = model.facts();
      for (int subject = 0; subject < facts.subjects(); subject++) {
        things.put(facts.key(subject).text(), powers.thing(subject));
      }
      ObjectKeys keys = new ObjectKeys(powers);
      for (DirectoryTree tree : powers.trees().all()) {
        for (int object = 0; object < tree.size(); object++) {
          things.put(
              keys.key(tree, object).text(), powers.thing(new DirectoryTrees.Spot(tree, object)));
        }
      }
    }
  }
}
