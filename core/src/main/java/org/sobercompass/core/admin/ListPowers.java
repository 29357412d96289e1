package org.sobercompass.core.admin;

import java.util.BitSet;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.Asker;
import org.sobercompass.core.access.Holders;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.delegation.ActionRights;
import org.sobercompass.core.delegation.AdminAction;
import org.sobercompass.core.delegation.DirectoryLists;
import org.sobercompass.core.delegation.DirectoryTree;
import org.sobercompass.core.delegation.DirectoryTrees;
import org.sobercompass.core.delegation.HandedDown;
import org.sobercompass.core.facts.Implicit;
import org.sobercompass.core.membership.Memberships;
import org.sobercompass.core.membership.SubjectSet;
import org.sobercompass.core.system.Change;
import org.sobercompass.core.system.Crowd;
import org.sobercompass.core.system.Decider;
import org.sobercompass.core.system.Question;
import org.sobercompass.core.system.Token;
import org.sobercompass.core.system.Verdict;

/**
 * What the directories' own lists give, apart from admin roles; and as whom accounts count in them.
 * Not thread-safe.
 */
public final class ListPowers {
  private final AccessModel model;
  private final DirectoryTrees trees;
  private final ActionRights rights;
  private final Map<String, SystemView> views;
  private final Asker asker;
  private final Holders holders;
  private final Map<Memberships, Crowd.Members> members;

  ListPowers(
      Asker asker,
      DirectoryTrees trees,
      ActionRights rights,
      Map<String, SystemView> views,
      Map<Memberships, Crowd.Members> members) {
    this.model = asker.model();
    this.trees = trees;
    this.rights = rights;
    this.views = views;
    this.asker = asker;
    this.holders = new Holders(asker);
    this.members = members;
  }

  /** The system of a directory's lists. */
  public SystemView of(DirectoryTree tree) {
    return Objects.requireNonNull(views.get(tree.directory()));
  }

  /** As whom accounts count in the lists; everything counts where there are none. */
  public Memberships memberships() {
    return views.values().stream().findFirst().map(SystemView::memberships).orElse(model.widest());
  }

  /** The removal of an entry of a list, by its number there. */
  public Change.AssignmentRemoved removal(DirectoryTree tree, int object, int entry) {
    return new Change.AssignmentRemoved(of(tree).number(), tree.entryNumber(object, entry));
  }

  /** The removal that an entry goes by: of itself, or of the one further up that hands it down. */
  public Optional<Change.AssignmentRemoved> source(DirectoryTrees.Spot spot, int entry) {
    return HandedDown.source(spot.tree(), spot.object(), entry)
        .map(from -> removal(spot.tree(), from.object(), from.entry()));
  }

  /** Who can do an action to an object by its directory's list alone. */
  public Crowd byList(AdminAction action, DirectoryTrees.Spot spot) {
    Question question = Question.of(spot.object(), rights.number(action));
    return crowd(of(spot.tree()), decider(spot.tree()), question);
  }

  /** Who may do what is asked of a system, with what is kept of who counts as whom. */
  Crowd crowd(SystemView view, Decider decider, Question question) {
    return decider.crowd(question, members(view), model.asOf().getEpochSecond()).orElseThrow();
  }

  private Crowd.Members members(SystemView view) {
    return members.computeIfAbsent(view.memberships(), m -> holders.members(view));
  }

  /** By the lists of a tree, which may be other ones than those of its directory. */
  private Decider decider(DirectoryTree tree) {
    SystemView view = of(tree);
    DirectoryLists own = (DirectoryLists) view.system();
    return own.tree() == tree ? view.decider() : own.decider(tree);
  }

  /** Whether anything is not known of as whom an account counts in the lists. */
  public boolean isUnsure(int account) {
    return !subjects(account).perhaps().isEmpty() || trees.hasStrangers();
  }

  /** What an account counts as in the lists. Valid until the next account. */
  public SubjectSet subjects(int account) {
    return views.values().stream()
        .findFirst()
        .map(view -> asker.subjects(view, account))
        .orElseGet(SubjectSet::new);
  }

  /** The SIDs that an account, or a group, surely counts as in the lists. */
  public Set<String> sids(int subject) {
    Set<String> sids = new TreeSet<>();
    views.values().stream()
        .findFirst()
        .ifPresent(
            view -> {
              SubjectSet counted = new SubjectSet();
              view.memberships().walker().subjects(subject, counted);
              sids.addAll(DirectoryTrees.ofEverybody());
              for (int i = 0; i < counted.sure().size(); i++) {
                sids.add(trees.sid(counted.sure().get(i)));
                sids.addAll(trees.history(counted.sure().get(i)));
              }
              sids.remove("");
            });
    return sids;
  }

  /** The accounts that surely count as a trustee of the lists; with those that perhaps do. */
  public Crowd counting(String sid) {
    Crowd crowd = new Crowd(new BitSet(), new BitSet());
    views.values().stream()
        .findFirst()
        .ifPresent(
            view -> {
              Set<Integer> subjects = new TreeSet<>(trees.bearers(sid));
              trees.subject(sid).ifPresent(subjects::add);
              if (DirectoryTrees.isOfEverybody(sid)) {
                subjects.add(model.facts().implicit(Implicit.SIGNED_IN));
              } else if (trees.isStranger(sid)) {
                crowd.perhaps().or(everybody(view));
              }
              for (int subject : subjects) {
                crowd.yes().or(members(view).surely(subject));
                crowd.perhaps().or(members(view).atMost(subject));
              }
            });
    return crowd;
  }

  private BitSet everybody(SystemView view) {
    return members(view).atMost(model.facts().implicit(Implicit.SIGNED_IN));
  }

  /** Whether an account can do an action to an object by its directory's list alone. */
  public Verdict byList(int account, AdminAction action, DirectoryTrees.Spot spot) {
    return asker.decide(
        of(spot.tree()), account, Question.of(spot.object(), rights.number(action)));
  }

  /** Whether whoever counts as some subjects, and as nobody else, can do an action by a list. */
  public Verdict byList(SubjectSet subjects, AdminAction action, DirectoryTrees.Spot spot) {
    Token token = new Token(Token.NOBODY, subjects, model.asOf().getEpochSecond());
    Decider decider = decider(spot.tree());
    return decider.decide(
        decider.project(token), Question.of(spot.object(), rights.number(action)));
  }
}
