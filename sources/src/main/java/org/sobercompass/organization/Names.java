package org.sobercompass.organization;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.function.Supplier;
import java.util.stream.Collectors;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.admin.Asked;
import org.sobercompass.core.admin.Powers;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.problem.Spelling;
import org.sobercompass.core.problem.UnknownNameException;
import org.sobercompass.core.proposal.ScopeSteps;
import org.sobercompass.core.proposal.Step;
import org.sobercompass.core.scope.AdminRoles;
import org.sobercompass.core.scope.AdminScope;
import org.sobercompass.core.system.Change;
import org.sobercompass.core.system.Question;
import org.sobercompass.core.system.RoleInfo;
import org.sobercompass.sources.NameResolver;
import org.sobercompass.sources.text.Window;

/** Finds accounts, groups, permissions, nodes and roles by the names that people use. */
public final class Names {
  private static final int SHOWN = 8;

  private final AccessModel model;
  private final Facts facts;
  private final Supplier<Powers> powers;

  Names(AccessModel model, Supplier<Powers> powers) {
    this.model = model;
    this.powers = powers;
    this.facts = model.facts();
  }

  /** The names of an organization without delegated administration. */
  public static Names of(AccessModel model) {
    return new Names(model, () -> Powers.none(model));
  }

  /** The one account with a name. */
  public int account(String name) {
    return subject(SubjectKind.ACCOUNT, name);
  }

  /** The one group with a name. */
  public int group(String name) {
    return subject(SubjectKind.GROUP, name);
  }

  /** The one subject that a text names, as {@link NameResolver.Written} takes it. */
  public int subject(String written) {
    NameResolver.Written who = NameResolver.Written.of(written);
    boolean group =
        who.kind() == SubjectKind.ACCOUNT
            && NameResolver.find(facts, SubjectKind.ACCOUNT, who.name()).isEmpty()
            && !NameResolver.find(facts, SubjectKind.GROUP, who.name()).isEmpty();
    if (group) {
      throw new UnknownNameException(
          "there is no account "
              + Problem.quote(who.name())
              + "; did you mean \"group "
              + who.name()
              + "\"?");
    }
    return subject(who.kind(), who.name());
  }

  /**
   * A role for a subject at a node, all by the names that people use.
   *
   * @param node the id of a node, or {@code everywhere}, which is said in words where there is a
   *     tree of nodes
   */
  public Step.Assignment assignment(
      String application, String role, String subject, String node, boolean below, Window window) {
    SystemView view = withRoles(application);
    if (node.isEmpty() && (isOfScopes(view) || view.resources().size() > 1)) {
      throw new UnknownNameException(
          view.system().name()
              + " has "
              + (isOfScopes(view) ? "scopes" : view.resources().size() + " nodes")
              + ", and none is said; expected one, or everywhere");
    }
    boolean all = node.equals("everywhere") && view.resources().find(node).isEmpty();
    return new Step.Assignment(
        view.id(),
        view.system().roles().get(role(view, role)).id(),
        facts.key(subject(subject)),
        isOfScopes(view)
            ? all ? "everything" : scope(node).id()
            : view.resources().id(node(view, all ? "" : node)),
        below,
        window.from(),
        window.until());
  }

  /** The model that has a system: that of delegated administration only where it is needed. */
  AccessModel modelOf(SystemView view) {
    return view.number() < model.systems().size() ? model : powers.get().model();
  }

  /** Settings of applications and of the admin roles. */
  public SettingWords settings() {
    return new SettingWords(this);
  }

  /** The application with an id, or the admin roles, which are called {@code admin}. */
  public SystemView withRoles(String id) {
    boolean application = model.system(id).isPresent();
    return application || !List.of("admin", "admin roles").contains(id)
        ? application(id)
        : powers.get().model().delegated().stream()
            .filter(Names::isOfScopes)
            .findFirst()
            .orElseThrow(() -> new UnknownNameException("there are no admin roles"));
  }

  /** Whether what a system gives is given over scopes, not at nodes. */
  public static boolean isOfScopes(SystemView view) {
    return view.system() instanceof AdminRoles;
  }

  /** The admin scope with an id. */
  public AdminScope scope(String id) {
    List<AdminScope> all = powers.get().roles().administration().scopes();
    List<String> ids = all.stream().map(AdminScope::id).toList();
    return all.stream()
        .filter(scope -> scope.id().equals(id))
        .findFirst()
        .orElseThrow(
            () ->
                new UnknownNameException(
                    "there is no admin scope "
                        + Problem.quote(id)
                        + Spelling.hint(id, ids)
                        + "\nthere are: "
                        + String.join(", ", ids)));
  }

  /** Where an assignment is given: the id of its node, or of its scope. */
  public static String where(SystemView view, int grant) {
    if (view.system() instanceof AdminRoles roles) {
      int scope = roles.given().get(grant).scope();
      return scope < 0 ? "everything" : roles.defined().get(scope).id();
    }
    return view.resources().id(view.grants().get(grant).resource());
  }

  private int subject(SubjectKind kind, String name) {
    List<Integer> found = NameResolver.find(facts, kind, name);
    if (found.size() == 1) {
      return found.get(0);
    }
    if (found.isEmpty()) {
      throw new UnknownNameException(
          "there is no "
              + kind.words()
              + " "
              + Problem.quote(name)
              + Spelling.hint(name, facts.names().known(kind)));
    }
    String list =
        found.stream()
            .limit(SHOWN)
            .map(s -> "  " + facts.key(s).text() + "  " + facts.dn(s))
            .collect(Collectors.joining("\n"));
    throw new UnknownNameException(
        Problem.quote(name)
            + " fits "
            + found.size()
            + " "
            + kind.words()
            + "s; name one by its DN or id:\n"
            + list
            + (found.size() > SHOWN ? "\n  … and " + (found.size() - SHOWN) + " more" : ""));
  }

  /** The application with an id. */
  public SystemView application(String id) {
    List<String> ids = model.systems().stream().map(SystemView::id).toList();
    return model
        .system(id)
        .orElseThrow(
            () ->
                new UnknownNameException(
                    "there is no application "
                        + Problem.quote(id)
                        + Spelling.hint(id, ids)
                        + "\nthere are: "
                        + String.join(", ", ids)));
  }

  /**
   * What is asked: a permission at a node, or an admin action on an object.
   *
   * @param what {@code application:area:level}, several joined by {@code +}, or an admin action
   * @param where the node, empty for the top; of an admin action the object
   */
  public Asked asked(String what, String where) {
    return asked(what, where, "");
  }

  /**
   * The same.
   *
   * @param destination for moving: where it would go; empty where that is not said
   */
  public Asked asked(String what, String where, String destination) {
    if (what.indexOf(':') >= 0) {
      return at(rights(what), where);
    }
    ActNames acts = acts();
    return new Asked.Act(
        acts.action(what),
        acts.thing(where),
        destination.isEmpty() ? Optional.empty() : Optional.of(acts.spot(destination)));
  }

  /** One permission, at the top; several joined are refused. */
  public Asked.Use permission(String text) {
    Asked.Use found = rights(text);
    if (found.isOfSeveral()) {
      throw new UnknownNameException(
          "this is told of one permission at a time; `can` takes several");
    }
    return found;
  }

  /** Rights at another node, by its id; nothing means the top. */
  public Asked.Use at(Asked.Use rights, String node) {
    int resource = node(rights.view(), node);
    return new Asked.Use(rights.view(), new Question(resource, rights.question().allOf()));
  }

  /** What gives something in a system; reads the directories' lists where they are asked for. */
  public Mapping mapping() {
    return new Mapping(this, model, () -> powers.get().model());
  }

  /** The names of delegated administration; reads the directories' lists the first time. */
  public ActNames acts() {
    return new ActNames(powers.get());
  }

  /** One permission, or several joined by {@code +}, at the top. */
  public Asked.Use rights(String text) {
    int colon = text.indexOf(':');
    if (colon < 0) {
      throw new UnknownNameException(
          Problem.quote(text)
              + " is no permission; expected application:area:level, as in "
              + example());
    }
    SystemView view = application(text.substring(0, colon));
    String rights = text.substring(colon + 1);
    if (view.rights().find(rights).isPresent() || rights.indexOf('+') < 0) {
      return new Asked.Use(view, Question.of(0, right(view, rights)));
    }
    int[] all =
        Arrays.stream(rights.split("\\+", -1)).mapToInt(right -> right(view, right)).toArray();
    return new Asked.Use(view, new Question(0, all));
  }

  static int right(SystemView view, String right) {
    return view.rights()
        .find(right)
        .orElseThrow(
            () ->
                new UnknownNameException(
                    "there is no permission "
                        + Problem.quote(right)
                        + " in "
                        + view.id()
                        + Spelling.hint(right, view.rights().texts())));
  }

  private String example() {
    List<String> texts = new ArrayList<>();
    model.systems().forEach(view -> texts.add(view.id() + ":" + view.rights().text(0)));
    return texts.isEmpty() ? "app:area:view" : texts.get(0);
  }

  /** A node by id; nothing means the top. */
  public int node(SystemView view, String id) {
    if (id.isEmpty()) {
      return 0;
    }
    return view.resources()
        .find(id)
        .orElseThrow(
            () ->
                new UnknownNameException(
                    "there is no node "
                        + Problem.quote(id)
                        + " in "
                        + view.id()
                        + Spelling.hint(id, view.resources().ids())));
  }

  /** The role with an id. */
  public int role(SystemView view, String id) {
    List<String> ids = view.system().roles().stream().map(RoleInfo::id).toList();
    return view.system()
        .findRole(id)
        .orElseThrow(
            () ->
                new UnknownNameException(
                    "there is no role "
                        + Problem.quote(id)
                        + " in "
                        + view.id()
                        + Spelling.hint(id, ids)
                        + "\nthere are: "
                        + String.join(", ", ids)));
  }

  /** Taking a member out of a group, as a change to look at. */
  public Change leaving(String account, String group) {
    int member = account(account);
    int from = group(group);
    return model
        .graph()
        .surely(member, from)
        .map(via -> new Change.MembershipRemoved(member, from, via))
        .orElseThrow(
            () ->
                new UnknownNameException(
                    Problem.quote(account) + " is no direct member of " + Problem.quote(group)));
  }

  /**
   * What brings a subject into an admin scope, or keeps it out; nothing when it is so already.
   *
   * @param scope the id of the scope
   * @param groups what a group stands for: object, members or both; empty for others
   */
  public List<Step> inScope(String scope, int subject, String groups, boolean include) {
    return new ScopeSteps(model.facts(), powers.get().roles().scopes())
        .make(scope(scope), subject, groups, include);
  }
}
