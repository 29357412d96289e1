package org.sobercompass.core.admin;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.HashMap;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.Asker;
import org.sobercompass.core.access.Can;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.delegation.ActionRights;
import org.sobercompass.core.delegation.AdminAction;
import org.sobercompass.core.delegation.DirectoryLists;
import org.sobercompass.core.delegation.DirectoryTree;
import org.sobercompass.core.delegation.DirectoryTrees;
import org.sobercompass.core.delegation.DsNames;
import org.sobercompass.core.delegation.Requirement;
import org.sobercompass.core.descriptor.DsRights;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.membership.Memberships;
import org.sobercompass.core.problem.Gap;
import org.sobercompass.core.scope.AdminRoles;
import org.sobercompass.core.scope.Scopes;
import org.sobercompass.core.system.AccountStanding;
import org.sobercompass.core.system.Change;
import org.sobercompass.core.system.Crowd;
import org.sobercompass.core.system.Question;
import org.sobercompass.core.system.Redefinition;
import org.sobercompass.core.system.Standing;
import org.sobercompass.core.system.Verdict;

/**
 * Who can do which admin action to which object, by all systems of delegated administration
 * together: the directories' own lists and the admin roles of the workspace. Not thread-safe.
 */
public final class Powers {
  private final AccessModel model;
  private final Administration administration;
  private final DirectoryTrees trees;
  private final ActionRights rights;
  private final AdminModel roles;
  private final Optional<SystemView> byRole;
  private final Asker asker;
  private final ListPowers lists;
  private final Map<Memberships, Crowd.Members> members;
  private Memberships.@Nullable Walker walker;

  /**
   * Over a model with the systems of its directories' lists and of its admin roles.
   *
   * @param administration what the workspace states
   * @param trees the directories that have lists, as the systems were made of them
   */
  public Powers(AccessModel model, Administration administration, DirectoryTrees trees) {
    this(model, administration, trees, new IdentityHashMap<>());
  }

  private Powers(
      AccessModel model,
      Administration administration,
      DirectoryTrees trees,
      Map<Memberships, Crowd.Members> members) {
    this.members = members;
    this.model = model;
    List<SystemView> views = model.delegated();
    Optional<SystemView> ofRoles = Optional.empty();
    Map<String, SystemView> byDirectory = new HashMap<>();
    List<DirectoryTree> now = new ArrayList<>();
    for (SystemView view : views) {
      if (view.system() instanceof DirectoryLists lists) {
        byDirectory.put(lists.tree().directory(), view);
        now.add(lists.tree());
      } else if (view.system() instanceof AdminRoles) {
        ofRoles = Optional.of(view);
      }
    }
    this.byRole = ofRoles;
    this.trees = trees.with(now);
    Optional<AdminRoles> given = ofRoles.map(view -> (AdminRoles) view.system());
    this.administration = given.map(administration::as).orElse(administration);
    this.roles =
        new AdminModel(
            model,
            this.administration,
            given
                .map(AdminRoles::scopes)
                .orElseGet(() -> new Scopes(model.widest(), administration.scopes())));
    this.rights =
        views.isEmpty()
            ? new ActionRights(administration.actions())
            : (ActionRights) views.get(0).rights();
    this.asker = model.asker();
    this.lists = new ListPowers(asker, this.trees, rights, byDirectory, members);
  }

  /** Over a model without delegated administration. */
  public static Powers none(AccessModel model) {
    return new Powers(model, Administration.NONE, new DirectoryTrees(model.facts(), List.of()));
  }

  /**
   * The same over a model that changes were laid over. Who counts as whom is shared as long as no
   * membership changes.
   */
  public Powers over(AccessModel changed) {
    boolean same = changed.graph() == model.graph();
    return new Powers(changed, administration, trees, same ? members : new IdentityHashMap<>());
  }

  /** The same for another thread, which shares nothing that is kept. */
  public Powers apart() {
    return new Powers(model, administration, trees, new IdentityHashMap<>());
  }

  /**
   * An object, as the directories know it and as the scopes do.
   *
   * @param subject its number among accounts, groups and units, or -1 when it is none of them
   * @param spot where it stands in a tree, if its directory has lists
   */
  public record Thing(int subject, Optional<DirectoryTrees.Spot> spot) {}

  /** Walks memberships as no system limits them. */
  Memberships.Walker walker() {
    walker = walker == null ? model.widest().walker() : walker;
    return walker;
  }

  /** The thing that a subject is. */
  public Thing thing(int subject) {
    return new Thing(subject, trees.object(subject));
  }

  /** The thing that an object of a directory is. */
  public Thing thing(DirectoryTrees.Spot spot) {
    return new Thing(trees.subject(spot.tree(), spot.object()), Optional.of(spot));
  }

  /** The admin roles. */
  public AdminModel roles() {
    return roles;
  }

  /** The directories that have lists. */
  public DirectoryTrees trees() {
    return trees;
  }

  /** The model. */
  public AccessModel model() {
    return model;
  }

  /** The withdrawal of an admin role, by the number of its assignment. */
  public Change.AssignmentRemoved withdrawal(int grant) {
    return new Change.AssignmentRemoved(byRole.orElseThrow().number(), grant);
  }

  /** Excepting an object from the scope that an admin role is given over. */
  public Change.Redefined exception(int scope, int object) {
    String groups = model.facts().kind(object) == SubjectKind.GROUP ? "object" : "";
    return new Change.Redefined(
        byRole.orElseThrow().number(),
        new Redefinition.ScopeLine(scope, true, object, groups, true));
  }

  /** What the directories' lists give by themselves. */
  public ListPowers lists() {
    return lists;
  }

  /** What is asked of one system. */
  record Part(SystemView view, Question question) {}

  /** What is asked of which system; of admin roles first. */
  private List<Part> asked(
      AdminAction action, Thing object, Optional<DirectoryTrees.Spot> destination) {
    int[] right = {rights.number(action)};
    List<Part> all = new ArrayList<>();
    byRole
        .filter(view -> object.subject >= 0)
        .ifPresent(view -> all.add(new Part(view, new Question(object.subject, right))));
    object.spot.ifPresent(
        spot ->
            all.add(
                new Part(
                    lists.of(spot.tree()),
                    new Question(
                        spot.object(),
                        right,
                        destination.map(DirectoryTrees.Spot::object).orElse(Question.NOWHERE)))));
    return all;
  }

  /**
   * Whether an account can do an action to an object.
   *
   * @param destination where it would be moved to, if it would
   */
  public Verdict can(
      int account, AdminAction action, Thing object, Optional<DirectoryTrees.Spot> destination) {
    if (!fits(action, object)) {
      return Verdict.NO;
    }
    Verdict verdict = isRead(object) ? Verdict.NO : Verdict.UNDECIDED;
    for (Part one : asked(action, object, destination)) {
      if (verdict != Verdict.YES) {
        verdict = verdict.or(asker.decide(one.view, account, one.question));
      }
    }
    return verdict;
  }

  /**
   * Whether the access rules over an object were read: they are its directory's own lists. Where
   * they were not, whatever no admin role gives is undecided.
   */
  public boolean isRead(Thing object) {
    return object.spot.isPresent();
  }

  /** The directories whose access rules were not read, sorted. */
  public List<String> unread() {
    return model.facts().arrays().sources().stream()
        .filter(name -> trees.all().stream().noneMatch(t -> t.directory().equals(name)))
        .toList();
  }

  /** What was not read of the access rules of directories. */
  public List<Gap> gaps() {
    List<Gap> gaps = new ArrayList<>();
    List<String> unread = unread();
    if (!unread.isEmpty()) {
      gaps.add(new Gap(Gap.Kind.RULES, unread, 0, 0));
    }
    for (DirectoryTree tree : trees.all()) {
      int missing = tree.unreadable();
      if (missing > 0) {
        gaps.add(new Gap(Gap.Kind.LISTS, List.of(tree.directory()), missing, tree.size()));
      }
    }
    return gaps;
  }

  /** Whether an account can act at all: whether it can sign in. */
  public Standing standing(int account) {
    return AccountStanding.of(model.facts(), account, model.asOf().getEpochSecond());
  }

  /** The same as {@link #can}, for an account that must be able to sign in for it. */
  public Can usable(
      int account, AdminAction action, Thing object, Optional<DirectoryTrees.Spot> destination) {
    Verdict held = can(account, action, object, destination);
    return Can.of(held, held == Verdict.NO ? Standing.USABLE : standing(account));
  }

  /** Why nobody can do an action to an object, whatever the lists say; empty where somebody may. */
  public String never(AdminAction action, Thing object) {
    return object
        .spot
        .filter(spot -> action.need() instanceof Requirement.Attribute)
        .flatMap(
            spot -> spot.tree().names().attribute(((Requirement.Attribute) action.need()).name()))
        .map(DsNames.AttributeType::fixed)
        .filter(why -> ((Requirement.Attribute) action.need()).mask() != DsRights.READ_PROPERTY)
        .orElse("");
  }

  /** Whether an action can be done to an object at all, by its class. */
  public boolean fits(AdminAction action, Thing object) {
    return object
        .spot
        .map(spot -> action.fits(spot.tree().names(), spot.tree().objectClass(spot.object())))
        .orElseGet(
            () -> object.subject < 0 || action.on().isEmpty() || isOf(action, object.subject));
  }

  private boolean isOf(AdminAction action, int subject) {
    SubjectKind kind = model.facts().kind(subject);
    return switch (kind) {
      case ACCOUNT -> action.on().contains("user");
      case GROUP -> action.on().contains("group");
      case UNIT -> action.on().contains("organizationalUnit");
      case IMPLICIT -> false;
    };
  }

  /** All accounts that can do an action to an object. */
  public Crowd who(AdminAction action, Thing object, Optional<DirectoryTrees.Spot> destination) {
    BitSet yes = new BitSet();
    if (!fits(action, object)) {
      return new Crowd(yes, new BitSet());
    }
    BitSet perhaps = isRead(object) ? new BitSet() : model.facts().present();
    for (Part one : asked(action, object, destination)) {
      Crowd crowd = lists.crowd(one.view, one.view.decider(), one.question);
      yes.or(crowd.yes());
      perhaps.or(crowd.perhaps());
    }
    perhaps.andNot(yes);
    return new Crowd(yes, perhaps);
  }

  /**
   * One way in which an account can do something.
   *
   * @param chain from the account by its groups to whom it is given
   * @param system the system that gives it
   * @param grant the admin role, the entry or the ownership, by its number in the system
   * @param note what it is when it is no entry: ownership, no list at all
   * @param gives whether it gives; else it takes away
   * @param spot the object whose list gives it, if one does
   */
  public record Way(
      List<Integer> chain,
      SystemView system,
      int grant,
      String note,
      boolean gives,
      Optional<DirectoryTrees.Spot> spot) {}

  /** The object in whose list an entry, or the ownership, stands; none for an admin role. */
  static Optional<DirectoryTrees.Spot> spot(SystemView view, int grant) {
    return view.system() instanceof DirectoryLists lists
        ? Optional.of(new DirectoryTrees.Spot(lists.tree(), lists.tree().objectOfEntry(grant)))
        : Optional.empty();
  }

  /** The same for a removal; none also for one of an application. */
  public Optional<DirectoryTrees.Spot> spot(Change.AssignmentRemoved removed) {
    return spot(model.view(removed.system()), removed.grant());
  }

  /** Whether a removal is one of an admin role. */
  public boolean isOfRole(Change.AssignmentRemoved removed) {
    return byRole.filter(view -> view.number() == removed.system()).isPresent();
  }

  /** The ways in which an account can do something, admin roles first. */
  public List<Way> ways(
      int account, AdminAction action, Thing object, Optional<DirectoryTrees.Spot> destination) {
    return new ActWays(asker).of(account, asked(action, object, destination));
  }
}
