package org.sobercompass.core.admin;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.HashMap;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.Asker;
import org.sobercompass.core.access.Can;
import org.sobercompass.core.access.Holders;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.delegation.ActionRights;
import org.sobercompass.core.delegation.AdminAction;
import org.sobercompass.core.delegation.DirectoryLists;
import org.sobercompass.core.delegation.DirectoryTree;
import org.sobercompass.core.delegation.DirectoryTrees;
import org.sobercompass.core.delegation.DsNames;
import org.sobercompass.core.delegation.HandedDown;
import org.sobercompass.core.delegation.Requirement;
import org.sobercompass.core.descriptor.DsRights;
import org.sobercompass.core.facts.Implicit;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.membership.MembershipPaths;
import org.sobercompass.core.membership.Memberships;
import org.sobercompass.core.membership.SubjectSet;
import org.sobercompass.core.problem.Gap;
import org.sobercompass.core.scope.AdminRoles;
import org.sobercompass.core.scope.Scopes;
import org.sobercompass.core.system.Admission;
import org.sobercompass.core.system.Change;
import org.sobercompass.core.system.Crowd;
import org.sobercompass.core.system.Decider;
import org.sobercompass.core.system.Layer;
import org.sobercompass.core.system.Limits;
import org.sobercompass.core.system.Question;
import org.sobercompass.core.system.Standing;
import org.sobercompass.core.system.Token;
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
  private final List<SystemView> views;
  private final Map<String, SystemView> byDirectory = new HashMap<>();
  private final Optional<SystemView> byRole;
  private final Asker asker;
  private final Holders holders;
  private final Map<Memberships, Crowd.Members> members;

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
    this.views = model.delegated();
    Optional<SystemView> ofRoles = Optional.empty();
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
    this.administration = given.map(all -> administration.with(all.given())).orElse(administration);
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
    this.holders = new Holders(asker);
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
    return new Powers(changed, administration, trees, members);
  }

  /**
   * An object, as the directories know it and as the scopes do.
   *
   * @param subject its number among accounts, groups and units, or -1 when it is none of them
   * @param spot where it stands in a tree, if its directory has lists
   */
  public record Thing(int subject, Optional<DirectoryTrees.Spot> spot) {}

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

  /** The system of a directory's lists. */
  public SystemView lists(DirectoryTree tree) {
    return Objects.requireNonNull(byDirectory.get(tree.directory()));
  }

  /** As whom accounts count in the lists; everything counts where there are none. */
  public Memberships memberships() {
    return byDirectory.values().stream()
        .findFirst()
        .map(SystemView::memberships)
        .orElse(model.widest());
  }

  /** The withdrawal of an admin role, by the number of its assignment. */
  public Change.AssignmentRemoved withdrawal(int grant) {
    return new Change.AssignmentRemoved(byRole.orElseThrow().number(), grant);
  }

  /** The removal of an entry of a list, by its number there. */
  public Change.AssignmentRemoved removal(DirectoryTree tree, int object, int entry) {
    return new Change.AssignmentRemoved(lists(tree).number(), tree.entryNumber(object, entry));
  }

  /** The removal that an entry goes by: of itself, or of the one further up that hands it down. */
  public Optional<Change.AssignmentRemoved> source(DirectoryTrees.Spot spot, int entry) {
    return HandedDown.source(spot.tree(), spot.object(), entry)
        .map(from -> removal(spot.tree(), from.object(), from.entry()));
  }

  /** What is asked of one system. */
  private record Asked(SystemView view, Question question) {}

  /** What is asked of which system; of admin roles first. */
  private List<Asked> asked(
      AdminAction action, Thing object, Optional<DirectoryTrees.Spot> destination) {
    int[] right = {rights.number(action)};
    List<Asked> all = new ArrayList<>();
    byRole
        .filter(view -> object.subject >= 0)
        .ifPresent(view -> all.add(new Asked(view, new Question(object.subject, right))));
    object.spot.ifPresent(
        spot ->
            all.add(
                new Asked(
                    lists(spot.tree()),
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
    for (Asked one : asked(action, object, destination)) {
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
    return Admission.ofAccount(model.facts(), account, model.asOf().getEpochSecond());
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
    BitSet perhaps = new BitSet();
    if (!fits(action, object)) {
      return new Crowd(yes, perhaps);
    }
    perhaps.set(0, isRead(object) ? 0 : model.facts().accounts());
    for (Asked one : asked(action, object, destination)) {
      Crowd crowd = crowd(one.view, one.view.decider(), one.question);
      yes.or(crowd.yes());
      perhaps.or(crowd.perhaps());
    }
    perhaps.andNot(yes);
    return new Crowd(yes, perhaps);
  }

  /** Who can do an action to an object by its directory's list alone. */
  public Crowd byList(AdminAction action, DirectoryTrees.Spot spot) {
    Question question = Question.of(spot.object(), rights.number(action));
    return crowd(lists(spot.tree()), decider(spot.tree()), question);
  }

  private Crowd crowd(SystemView view, Decider decider, Question question) {
    return decider.crowd(question, members(view), model.asOf().getEpochSecond()).orElseThrow();
  }

  private Crowd.Members members(SystemView view) {
    return members.computeIfAbsent(view.memberships(), m -> holders.members(view));
  }

  /** By the lists of a tree, which may be other ones than those of its directory. */
  private Decider decider(DirectoryTree tree) {
    SystemView view = lists(tree);
    DirectoryLists own = (DirectoryLists) view.system();
    return own.tree() == tree ? view.decider() : own.decider(tree);
  }

  /** Whether anything is not known of as whom an account counts in the lists. */
  public boolean isUnsure(int account) {
    return !subjects(account).perhaps().isEmpty() || trees.hasStrangers();
  }

  /** What an account counts as in the lists. Valid until the next account. */
  public SubjectSet subjects(int account) {
    return byDirectory.values().stream()
        .findFirst()
        .map(view -> asker.subjects(view, account))
        .orElseGet(SubjectSet::new);
  }

  /** The SIDs that an account, or a group, surely counts as in the lists. */
  public Set<String> sids(int subject) {
    Set<String> sids = new TreeSet<>();
    byDirectory.values().stream()
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
    byDirectory.values().stream()
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
        lists(spot.tree()), account, Question.of(spot.object(), rights.number(action)));
  }

  /** Whether whoever counts as some subjects, and as nobody else, can do an action by a list. */
  public Verdict byList(SubjectSet subjects, AdminAction action, DirectoryTrees.Spot spot) {
    Token token = new Token(Token.NOBODY, subjects, model.asOf().getEpochSecond());
    Decider decider = decider(spot.tree());
    return decider.decide(
        decider.project(token), Question.of(spot.object(), rights.number(action)));
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
  private static Optional<DirectoryTrees.Spot> spot(SystemView view, int grant) {
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
    List<Way> ways = new ArrayList<>();
    for (Asked one : asked(action, object, destination)) {
      List<Layer> layers = one.view.decider().layers(asker.token(one.view, account), one.question);
      for (Layer layer : layers) {
        int first = ways.size();
        layer.gives().forEach(grant -> ways.add(way(account, one.view, grant, true)));
        layer.stops().forEach(grant -> ways.add(way(account, one.view, grant, false)));
        if (!layer.note().isEmpty() && first < ways.size()) {
          Way owned = ways.get(first);
          ways.set(
              first,
              new Way(List.of(account), owned.system, owned.grant, layer.note(), true, owned.spot));
        }
      }
      if (layers.isEmpty()) {
        asker
            .explain(one.view, account, one.question, Limits.USUAL)
            .proofs()
            .forEach(proof -> ways.add(way(account, one.view, proof.grant(), true)));
      }
    }
    return ways;
  }

  private Way way(int account, SystemView view, int grant, boolean gives) {
    int subject = view.grants().get(grant).counted(model.facts());
    List<Integer> chain = List.of(account);
    if (subject >= 0 && model.facts().kind(subject) != SubjectKind.IMPLICIT) {
      List<MembershipPaths.Path> found =
          new MembershipPaths(view.memberships()).find(account, subject, 1).list();
      chain = found.isEmpty() ? chain : found.get(0).subjects();
    }
    return new Way(chain, view, grant, "", gives, spot(view, grant));
  }
}
