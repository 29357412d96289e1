package org.sobercompass.sources.roles;

import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import org.sobercompass.core.facts.Implicit;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.core.system.AccessSystem;
import org.sobercompass.core.system.Admission;
import org.sobercompass.core.system.Basis;
import org.sobercompass.core.system.Grant;
import org.sobercompass.core.system.HostLimits;
import org.sobercompass.core.system.Resources;
import org.sobercompass.core.system.RoleInfo;
import org.sobercompass.core.system.Terms;
import org.sobercompass.core.system.roles.ApplicationDefinition;
import org.sobercompass.core.system.roles.Combining;
import org.sobercompass.core.system.roles.RoleApplication;
import org.sobercompass.core.system.roles.RoleCompiler;
import org.sobercompass.core.system.roles.RoleDefinition;
import org.sobercompass.core.system.roles.RoleRights;
import org.sobercompass.sources.FileSettings;
import org.sobercompass.sources.Ids;
import org.sobercompass.sources.NameResolver;
import org.sobercompass.sources.SightReader;
import org.sobercompass.sources.SystemFormat;
import org.sobercompass.sources.SystemFormat.Context;
import org.sobercompass.sources.text.Node;

/** The registration of applications with roles; docs/workspace.md describes the file. */
public final class RoleFormat implements SystemFormat {
  private static final Set<String> KEYS =
      Set.of(
          "kind",
          "id",
          "name",
          "owner",
          "owners",
          "sight",
          "sign-in",
          "register",
          "areas",
          "levels",
          "actions",
          "nodes",
          "roles",
          "everyone",
          "combining",
          "assignments",
          "second-factor",
          "place",
          "hosts",
          "sign-in-name",
          "sign-in-case",
          "emergency",
          "administrators",
          "trusted");

  /** What proposals can change; areas, levels, actions and nodes are what rights are counted by. */
  private static final Map<String, Boolean> SETTINGS =
      Map.of(
          "sight", true,
          "sign-in", false,
          "second-factor", false,
          "place", false,
          "hosts", false,
          "sign-in-name", false,
          "sign-in-case", false,
          "trusted", false,
          "combining", false,
          "roles", true);

  @Override
  public String kind() {
    return RoleApplication.KIND;
  }

  @Override
  public Set<String> needs(Node file, Problems problems) {
    Set<String> needs = new TreeSet<>(HostLimits.NEEDS);
    file.get("sight").ifPresent(sight -> needs.addAll(SightReader.read(sight, problems).needs()));
    return needs;
  }

  @Override
  public List<String> files(Node file) {
    List<String> files = new ArrayList<>(file.texts("register"));
    Optional<Node> assignments = file.get("assignments");
    for (Basis basis : Basis.values()) {
      assignments.ifPresent(node -> files.addAll(node.texts(basis.word())));
    }
    return files;
  }

  @Override
  public AccessSystem read(Node file, Context context) {
    ApplicationDefinition definition = definition(file, context);
    definition =
        definition.with(
            new FileSettings(
                context.root().resolve(file.place().file()),
                file.place().file(),
                SETTINGS,
                (node, problems) ->
                    new RoleApplication(
                        context.facts(), definition(node, context.telling(problems)), Map.of()),
                this::needs));
    Optional<String> everyone = file.text("everyone");
    boolean open = definition.admission().isOpen();
    Map<Basis, List<Grant>> grants = new EnumMap<>(Basis.class);
    if (!definition.roles().isEmpty()) {
      grants(file, definition, context, grants);
      if (everyone.isPresent()) {
        addEveryone(everyone.get(), open, definition, file, context, grants);
      }
    }
    if (grants.values().stream().flatMap(List::stream).anyMatch(Grant::isOfUnread)) {
      definition = definition.with(definition.admission().namingUnread());
    }
    return new RoleApplication(context.facts(), definition, grants);
  }

  /** All but who is given what. */
  private static ApplicationDefinition definition(Node file, Context context) {
    Problems problems = context.problems();
    file.only(KEYS);
    String id = Ids.check(file.need("id"), file, problems);
    RoleRights rights = new RoleShapes(problems).rights(file);
    Resources nodes = new RoleShapes(problems).nodes(file);
    Combining combining = new RoleShapes(problems).combining(file);
    RoleCompiler compiler = new RoleCompiler(rights);
    List<RoleDefinition> definitions = new RoleShapes(problems).roles(file);
    boolean denies = combining.mode() == Combining.Mode.DENY_OVERRIDES;
    List<RoleInfo> roles = compiler.compile(definitions, denies, problems);
    boolean open = file.texts("sign-in").equals(List.of("none"));
    Admission admission = admission(file, open, context);
    if (open && file.text("everyone").isEmpty()) {
      file.wrong(
          "the application asks for no sign-in, but does not say what everyone may do",
          "everyone: and a role");
    }
    everyone(file, roles.stream().map(RoleInfo::id).toList(), problems);
    return new ApplicationDefinition(
        id,
        file.text("name").orElse(id),
        rights,
        nodes,
        roles.size() == definitions.size() ? roles : List.of(),
        compiler,
        combining,
        SightReader.of(file, context),
        admission,
        List.of(file.place().file()),
        Optional.empty());
  }

  /** Tells a role for everyone, or of administrators, that is not there. */
  private static void everyone(Node file, List<String> roles, Problems problems) {
    file.get("everyone")
        .filter(node -> !roles.isEmpty() && !roles.contains(node.text()))
        .ifPresent(
            node ->
                problems.unknown(
                    node.place(),
                    "the role that everyone has is "
                        + Problem.quote(node.text())
                        + ", which is not there",
                    "a role of this application",
                    node.text(),
                    roles));
  }

  private static Admission admission(Node file, boolean open, Context context) {
    List<String> kinds = new ArrayList<>(file.texts("sign-in"));
    if (kinds.contains("none") && !open) {
      file.wrong("sign-in lists none among others", "none alone, or the kinds that are accepted");
    }
    kinds.remove("none");
    var register = file.text("register").map(name -> new RegisterReader(name, context).read());
    return new Admission(context.facts(), open, Set.copyOf(kinds), register, terms(file, context));
  }

  private static void grants(
      Node file,
      ApplicationDefinition definition,
      Context context,
      Map<Basis, List<Grant>> grants) {
    Optional<Node> files = file.get("assignments");
    files.ifPresent(node -> node.only(Set.of("actual", "intended", "taken")));
    for (Basis basis : Basis.values()) {
      List<String> names = files.map(node -> node.texts(basis.word())).orElse(List.of());
      if (!names.isEmpty()) {
        grants.put(basis, new AssignmentReader(definition, context).read(names));
      }
    }
    if (grants.isEmpty()) {
      grants.put(Basis.ACTUAL, new ArrayList<>());
    }
  }

  private static void addEveryone(
      String role,
      boolean open,
      ApplicationDefinition definition,
      Node file,
      Context context,
      Map<Basis, List<Grant>> grants) {
    List<String> ids = definition.roles().stream().map(RoleInfo::id).toList();
    if (!ids.contains(role)) {
      return;
    }
    Implicit group = open ? Implicit.EVERYONE : Implicit.MEMBERS;
    Grant grant =
        new Grant(
            role + " " + group.id() + " (declared)",
            ids.indexOf(role),
            context.facts().implicit(group),
            group.id(),
            0,
            true,
            Long.MIN_VALUE,
            Long.MAX_VALUE,
            true,
            "",
            "",
            file.get("everyone").map(Node::place).orElse(file.place()),
            true);
    grants.values().forEach(list -> list.add(grant));
  }

  /** The terms; whoever is trusted and fits nobody is told. */
  private static Terms terms(Node file, Context context) {
    for (Node trusted : file.get("trusted").map(Node::items).orElse(List.of())) {
      String name = trusted.text();
      if (NameResolver.find(context.facts(), SubjectKind.ACCOUNT, name).isEmpty()) {
        context
            .problems()
            .warning(
                trusted.place(),
                "trusted: there is no account " + Problem.quote(name),
                "a login name, mail address, display name, DN or id; until then nobody counts as"
                    + " trusted by it");
      }
    }
    return TermsReader.read(file, context.zone());
  }
}
