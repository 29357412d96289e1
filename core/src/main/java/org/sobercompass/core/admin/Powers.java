package org.sobercompass.core.admin;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.Can;
import org.sobercompass.core.delegation.ActionCheck;
import org.sobercompass.core.delegation.Actors;
import org.sobercompass.core.delegation.AdminAction;
import org.sobercompass.core.delegation.DirectoryTree;
import org.sobercompass.core.delegation.DsNames;
import org.sobercompass.core.delegation.Requirement;
import org.sobercompass.core.delegation.Tokens;
import org.sobercompass.core.delegation.TreePatch;
import org.sobercompass.core.descriptor.DsRights;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.membership.MembershipPaths;
import org.sobercompass.core.problem.Gap;
import org.sobercompass.core.system.Admission;
import org.sobercompass.core.system.Change;
import org.sobercompass.core.system.Standing;
import org.sobercompass.core.system.Verdict;

/**
 * Who can do which admin action to which object: by the directories' own lists and by the admin
 * roles of the workspace together. Not thread-safe.
 */
public final class Powers {
  private final AccessModel model;
  private final AdminModel roles;
  private final Tokens tokens;
  private final Map<String, ActionCheck> checks = new HashMap<>();
  private int checked = -1;

  /** Over a model, the admin roles and the trees of directories that have lists. */
  public Powers(AccessModel model, Administration administration, List<DirectoryTree> trees) {
    this.model = model;
    this.roles = new AdminModel(model, administration);
    this.tokens = new Tokens(model, trees);
  }

  private Powers(AccessModel model, AdminModel roles, Tokens tokens) {
    this.model = model;
    this.roles = roles;
    this.tokens = tokens;
  }

  /**
   * The same without what some changes take out, over a model that these changes were laid over.
   * O(objects).
   */
  public Powers with(AccessModel changed, List<Change> changes) {
    Administration left = roles.administration().without(changes);
    List<DirectoryTree> trees =
        tokens.trees().stream().map(tree -> TreePatch.without(tree, changes)).toList();
    return changed.graph() == model.graph()
        ? new Powers(changed, new AdminModel(changed, left), tokens.with(trees))
        : new Powers(changed, left, trees);
  }

  /**
   * An object, as the directories know it and as the scopes do.
   *
   * @param subject its number among accounts, groups and units, or -1 when it is none of them
   * @param spot where it stands in a tree, if its directory has lists
   */
  public record Thing(int subject, Optional<Tokens.Spot> spot) {}

  /** The thing that a subject is. */
  public Thing thing(int subject) {
    return new Thing(subject, tokens.object(subject));
  }

  /** The admin roles. */
  public AdminModel roles() {
    return roles;
  }

  /** The tokens. */
  public Tokens tokens() {
    return tokens;
  }

  /** The model. */
  public AccessModel model() {
    return model;
  }

  /** Decides for one account in one directory; kept while the account stays the same. */
  public ActionCheck check(int account, DirectoryTree tree) {
    if (checked != account) {
      checks.clear();
      checked = account;
    }
    ActionCheck check = checks.get(tree.directory());
    if (check == null) {
      check = new ActionCheck(tree, tokens.of(account), tokens.perhaps(account));
      checks.put(tree.directory(), check);
    }
    return check;
  }

  /**
   * Whether an account can do an action to an object.
   *
   * @param destination where it would be moved to, if it would
   */
  public Verdict can(
      int account, AdminAction action, Thing object, Optional<Tokens.Spot> destination) {
    if (!fits(action, object)) {
      return Verdict.NO;
    }
    Verdict byRole =
        object.subject < 0 ? Verdict.NO : roles.gives(account, action.id(), object.subject);
    if (byRole == Verdict.YES) {
      return Verdict.YES;
    }
    Verdict byList = object.spot.map(spot -> tokens.counts(account)).orElse(Verdict.UNDECIDED);
    if (byList == Verdict.YES) {
      Tokens.Spot spot = object.spot.orElseThrow();
      byList =
          check(account, spot.tree())
              .decide(
                  action.need(), spot.object(), destination.map(Tokens.Spot::object).orElse(-1));
    }
    return byList.ordinal() > byRole.ordinal() ? byList : byRole;
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
        .filter(name -> tokens.trees().stream().noneMatch(t -> t.directory().equals(name)))
        .toList();
  }

  /** What was not read of the access rules of directories. */
  public List<Gap> gaps() {
    List<Gap> gaps = new ArrayList<>();
    List<String> unread = unread();
    if (!unread.isEmpty()) {
      gaps.add(new Gap(Gap.Kind.RULES, unread, 0, 0));
    }
    for (DirectoryTree tree : tokens.trees()) {
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
      int account, AdminAction action, Thing object, Optional<Tokens.Spot> destination) {
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
  public Actors.Answer who(AdminAction action, Thing object, Optional<Tokens.Spot> destination) {
    BitSet yes = new BitSet();
    BitSet perhaps = new BitSet();
    if (!fits(action, object)) {
      return new Actors.Answer(yes, perhaps);
    }
    if (object.spot.isPresent()) {
      Tokens.Spot spot = object.spot.get();
      Actors.Answer answer =
          new Actors(spot.tree(), tokens)
              .who(action.need(), spot.object(), destination.map(Tokens.Spot::object).orElse(-1));
      yes.or(answer.yes());
      perhaps.or(answer.perhaps());
      yes.andNot(tokens.withoutSid());
      perhaps.or(tokens.withoutSid());
    } else {
      perhaps.set(0, model.facts().accounts());
    }
    if (object.subject >= 0) {
      Actors.Answer answer = roles.accounts(action.id(), object.subject);
      yes.or(answer.yes());
      perhaps.or(answer.perhaps());
    }
    perhaps.andNot(yes);
    return new Actors.Answer(yes, perhaps);
  }

  /**
   * One way in which an account can do something.
   *
   * @param chain from the account by its groups to whom it is given
   * @param ground the entry or the ownership, if the directory's list gives it
   * @param spot where the entry stands
   * @param grant the number of the admin role's assignment, if that gives it
   */
  public record Way(
      List<Integer> chain,
      Optional<ActionCheck.Ground> ground,
      Optional<Tokens.Spot> spot,
      Optional<Integer> grant) {}

  /** The ways in which an account can do something, admin roles first. */
  public List<Way> ways(
      int account, AdminAction action, Thing object, Optional<Tokens.Spot> destination) {
    List<Way> ways = new ArrayList<>();
    if (object.subject >= 0) {
      for (int g : roles.giving(account, action.id(), object.subject)) {
        int subject = roles.administration().grants().get(g).subject();
        ways.add(
            new Way(
                chain(new MembershipPaths(model.widest()), account, subject),
                Optional.empty(),
                Optional.empty(),
                Optional.of(g)));
      }
    }
    object.spot.ifPresent(
        spot -> {
          ActionCheck check = check(account, spot.tree());
          for (ActionCheck.Ground ground :
              check.grounds(
                  action.need(), spot.object(), destination.map(Tokens.Spot::object).orElse(-1))) {
            Tokens.Spot at = new Tokens.Spot(spot.tree(), ground.object());
            ways.add(
                new Way(
                    chain(account, ground, at),
                    Optional.of(ground),
                    Optional.of(at),
                    Optional.empty()));
          }
        });
    return ways;
  }

  private List<Integer> chain(int account, ActionCheck.Ground ground, Tokens.Spot at) {
    if (ground.entry() < 0) {
      return List.of(account);
    }
    String sid =
        at.tree()
            .descriptor(at.object())
            .map(d -> d.entries().get(ground.entry()).trustee())
            .orElse("");
    return tokens
        .subject(sid)
        .map(subject -> chain(new MembershipPaths(tokens.memberships()), account, subject))
        .orElse(List.of(account));
  }

  private static List<Integer> chain(MembershipPaths paths, int account, int subject) {
    List<MembershipPaths.Path> found = paths.find(account, subject, 1).list();
    return found.isEmpty() ? List.of(account) : found.get(0).subjects();
  }
}
