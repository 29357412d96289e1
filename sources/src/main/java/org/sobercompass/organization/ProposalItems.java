package org.sobercompass.organization;

import java.time.Instant;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.key.Key;
import org.sobercompass.core.key.KeyKind;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.core.proposal.Step;
import org.sobercompass.core.proposal.Step.Assignment;
import org.sobercompass.core.scope.GroupMeaning;
import org.sobercompass.sources.text.Node;

/** The changes of a proposal as they stand in YAML; {@link ProposalText} writes them. */
final class ProposalItems {
  private final ProposalFile file;
  private final Problems problems;
  private final Map<String, Function<Node, Step>> kinds = new LinkedHashMap<>();

  ProposalItems(ProposalFile file, Problems problems) {
    this.file = file;
    this.problems = problems;
    kinds.put("assign", what -> new Step.Assign(assignment(what)));
    kinds.put("withdraw", what -> new Step.Withdraw(assignment(what)));
    kinds.put("join", what -> new Step.Join(member(what), group(what)));
    kinds.put("leave", what -> new Step.Leave(member(what), group(what)));
    kinds.put("include", what -> line(what, false, true));
    kinds.put("except", what -> line(what, true, true));
    kinds.put("end-inclusion", what -> line(what, false, false));
    kinds.put("end-exception", what -> line(what, true, false));
    kinds.put("remove-entry", what -> entry(what, true));
    kinds.put("restore-entry", what -> entry(what, false));
    kinds.put("add-entry", what -> item(what, true));
    kinds.put("take-entry", what -> item(what, false));
    kinds.put("create", what -> creation(what).step());
    kinds.put("delete", this::deletion);
    kinds.put("disable", what -> new Step.Disable(account(what), true));
    kinds.put("enable", what -> new Step.Disable(account(what), false));
    kinds.put("end-account", this::ends);
    kinds.put("hosts", this::hosts);
    kinds.put("primary-group", this::primary);
    kinds.put("enrol", what -> register(what, true));
    kinds.put("strike", what -> register(what, false));
    kinds.put("role", this::role);
    kinds.put("setting", this::setting);
  }

  /** The step that an item is; nothing when it is none, which is told. */
  Optional<Step> read(Node item) {
    item.only(kinds.keySet());
    Optional<String> kind = item.entries().keySet().stream().filter(kinds::containsKey).findFirst();
    if (item.entries().size() != 1 || kind.isEmpty()) {
      item.wrong("a change is one thing", "one of " + String.join(", ", kinds.keySet()));
      return Optional.empty();
    }
    Node what = item.entries().get(kind.get());
    Function<Node, Step> reader = kinds.get(kind.get());
    return what == null || reader == null ? Optional.empty() : Optional.of(reader.apply(what));
  }

  /** What an item creates; nothing when it creates nothing, or cannot be read. */
  Optional<Creation> created(Node item) {
    return item.get("create").map(this::creation);
  }

  /** The setting that an item writes otherwise; nothing when it is about something else. */
  Optional<Step.Setting> written(Node item) {
    return item.get("setting").map(this::setting);
  }

  /** Without {@code was} it is what stands there now. */
  private Step.Setting setting(Node what) {
    what.only(Set.of("system", "path", "was", "is", "name"));
    List<String> path = what.texts("path");
    String is = what.get("is").map(Node::inOneLine).orElse("");
    Optional<String> was =
        what.entries().containsKey("was")
            ? Optional.of(what.get("was").map(Node::inOneLine).orElse(""))
            : Optional.empty();
    String system = what.need("system");
    if (path.isEmpty()) {
      what.wrong("it is not said which setting", "path: [sight, nesting], or the like");
      return new Step.Setting(system, path, "", is);
    }
    Step.Setting now = file.organization().names().settings().setting(system, path, is);
    return new Step.Setting(now.system(), path, was.orElse(now.was()), is);
  }

  private Creation creation(Node what) {
    what.only(Set.of("group", "account", "directory", "attributes"));
    KeyKind kind = what.get("group").isPresent() ? KeyKind.GROUP : KeyKind.ACCOUNT;
    Map<String, List<String>> attributes = new LinkedHashMap<>();
    what.get("attributes")
        .map(Node::entries)
        .orElse(Map.of())
        .forEach(
            (name, values) -> {
              if (Creation.MEMBERS.contains(name.toLowerCase(Locale.ROOT))) {
                values.wrong("members are put in by changes of their own", "join:, once each");
              }
              if (Creation.isSecret(name)) {
                values.wrong(Creation.SECRET, Creation.NO_SECRET);
              }
              attributes.put(name, values.items().stream().map(Node::text).toList());
            });
    return Creation.of(kind, what.need("directory"), what.need(kind.word()), attributes);
  }

  private Step deletion(Node what) {
    what.only(Set.of("group", "account", "name"));
    String kind = what.get("group").isPresent() ? "group" : "account";
    String written = what.need(kind);
    Key key = file.subject(written.contains(":") ? written : kind + " " + written);
    Facts facts = file.organization().model().facts();
    String dn = facts.find(key).map(facts::dn).orElse("");
    return new Step.Presence(key, dn, Map.of(), false);
  }

  private Key member(Node what) {
    what.only(Set.of("member", "group", "name"));
    return file.subject(what.need("member"));
  }

  private Key group(Node what) {
    String written = what.need("group");
    return file.subject(written.contains(":") ? written : "group " + written);
  }

  private Assignment assignment(Node what) {
    what.only(Set.of("application", "role", "to", "at", "below", "from", "until", "on", "name"));
    return file.assignment(
        new ProposalFile.Written(
            what.need("application"),
            what.need("role"),
            what.need("to"),
            what.text("at").orElse(""),
            what.text("below").orElse(""),
            what.text("from").orElse(""),
            what.text("until").orElse(""),
            what.text("on").orElse("")),
        what.place());
  }

  private Step line(Node what, boolean excepted, boolean added) {
    what.only(Set.of("scope", "who", "groups", "name"));
    String groups = what.text("groups").orElse("");
    if (!groups.isEmpty() && !GroupMeaning.WORDS.contains(groups)) {
      what.wrong("groups: " + groups + " is not known", String.join(", ", GroupMeaning.WORDS));
    }
    return new Step.Line(
        what.need("scope"), excepted, file.subject(what.need("who")), groups, added);
  }

  /** What it says is looked for, since its place in a list moves when others go. */
  private static Step entry(Node what, boolean removed) {
    what.only(Set.of("system", "entry", "name"));
    return new Step.Entry(what.need("system"), what.need("entry"), what.need("name"), removed);
  }

  private static Step item(Node what, boolean added) {
    what.only(Set.of("system", "at", "entry"));
    return new Step.ListItem(what.need("system"), what.need("at"), what.need("entry"), added);
  }

  private Key account(Node what) {
    what.only(Set.of("account", "name"));
    return file.subject(what.need("account"));
  }

  private Step hosts(Node what) {
    what.only(Set.of("account", "was", "is", "name"));
    return new Step.Hosts(file.subject(what.need("account")), what.texts("was"), what.texts("is"));
  }

  private Step primary(Node what) {
    what.only(Set.of("account", "was", "is", "name"));
    return new Step.Primary(
        file.subject(what.need("account")), named(what, "was"), named(what, "is"));
  }

  private Optional<Key> named(Node what, String key) {
    return what.text(key)
        .map(group -> file.subject(group.contains(":") ? group : "group " + group));
  }

  private Step ends(Node what) {
    what.only(Set.of("account", "was", "at", "name"));
    return new Step.Ends(
        file.subject(what.need("account")), instant(what, "was"), instant(what, "at"));
  }

  private Optional<Instant> instant(Node what, String key) {
    return what.get(key).flatMap(at -> file.lastMoment(at.text(), at.place()));
  }

  private Step register(Node what, boolean added) {
    what.only(Set.of("application", "who", "sign-in", "active", "second-factor", "at", "name"));
    return new Step.Register(
        what.need("application"),
        file.subject(what.need("who")),
        what.text("sign-in").orElse("directory"),
        what.yes("active", true),
        what.yes("second-factor", false),
        what.text("at").orElse(""),
        added);
  }

  private Step role(Node what) {
    what.only(Set.of("application", "role", "area", "was", "is", "name"));
    return new Step.Role(
        what.need("application"),
        what.need("role"),
        what.text("area").orElse(""),
        List.copyOf(what.texts("was")),
        List.copyOf(what.texts("is")));
  }
}
