package org.sobercompass.sources.workspace;

import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.findings.Assessment;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.core.problem.Spelling;
import org.sobercompass.core.system.AccessSystem;
import org.sobercompass.core.system.Resources;
import org.sobercompass.sources.NameResolver;
import org.sobercompass.sources.text.Node;

/** Reads who answers for what, and as whom directories are read. */
final class AnsweringReader {
  private final Facts facts;
  private final Problems problems;

  AnsweringReader(Facts facts, Problems problems) {
    this.facts = facts;
    this.problems = problems;
  }

  /** The applications and scopes with an {@code owner}, and nodes and paths with one of theirs. */
  Assessment.Owned owned(Collection<Node> applications, Node admin, List<AccessSystem> systems) {
    Map<String, Integer> ids = new HashMap<>();
    Map<String, Map<String, Integer>> places = new HashMap<>();
    for (Node application : applications) {
      String id = application.text("id").orElse("");
      owner(application).ifPresent(owner -> ids.put(id, owner));
      systems.stream()
          .filter(system -> system.id().equals(id))
          .forEach(system -> places.put(id, places(application, system.resources())));
    }
    Map<String, Integer> scopes = new HashMap<>();
    admin
        .get("scopes")
        .map(Node::entries)
        .orElse(Map.of())
        .forEach((id, node) -> owner(node).ifPresent(owner -> scopes.put(id, owner)));
    return new Assessment.Owned(Map.copyOf(ids), Map.copyOf(scopes), Map.copyOf(places));
  }

  private Map<String, Integer> places(Node application, Resources resources) {
    Map<String, Integer> places = new HashMap<>();
    application
        .get("owners")
        .map(Node::entries)
        .orElse(Map.of())
        .forEach(
            (place, owner) -> {
              if (resources.find(place).isEmpty()) {
                problems.add(
                    Problem.warning(
                            owner.place(),
                            "there is no " + Problem.quote(place) + " that somebody could own",
                            "a node or path that is there")
                        .near(Spelling.nearest(place, resources.ids()).orElse("")));
              }
              named(owner, Optional.of(owner.text())).ifPresent(who -> places.put(place, who));
            });
    return Map.copyOf(places);
  }

  /** An owner is somebody who is there: one who left answers for nothing. */
  private Optional<Integer> owner(Node node) {
    return named(node.get("owner").orElse(node), node.text("owner"));
  }

  private Optional<Integer> named(Node node, Optional<String> written) {
    if (written.isEmpty()) {
      return Optional.empty();
    }
    for (SubjectKind kind : List.of(SubjectKind.ACCOUNT, SubjectKind.GROUP)) {
      List<Integer> found = find(kind, written.get());
      if (found.size() == 1) {
        return Optional.of(found.get(0));
      }
    }
    problems.warning(
        node.place(),
        "the owner " + Problem.quote(written.get()) + " is in no directory, or fits several",
        "an account or group that is there");
    return Optional.empty();
  }

  private List<Integer> find(SubjectKind kind, String name) {
    return NameResolver.find(facts, kind, name);
  }

  /** As whom we and the applications read directories. */
  List<Assessment.ReadingAccount> readers(
      List<DirectorySettings> directories, Collection<Node> applications) {
    List<Assessment.ReadingAccount> all = new ArrayList<>();
    for (DirectorySettings directory : directories) {
      directory
          .live()
          .filter(access -> access.readingAccount().isPresent())
          .ifPresent(
              access ->
                  all.add(
                      reader(
                          directory.name(),
                          access.readingAccount().get(),
                          access.isPlain(),
                          "Sober Compass",
                          directory.place())));
    }
    for (Node application : applications) {
      Node sight = application.get("sight").orElseGet(Node::nothing);
      String connection = sight.text("connection").orElse("protected");
      if (!Set.of("protected", "plain").contains(connection)) {
        sight.wrong(
            "connection: " + Problem.quote(connection) + " is not known",
            "protected, or plain when the password is sent in clear");
      }
      String name = application.text("name").orElse(application.text("id").orElse(""));
      sight
          .text("bind")
          .ifPresent(
              bind ->
                  all.add(
                      reader(
                          sight.text("directory").orElse(""),
                          bind,
                          connection.equals("plain"),
                          name,
                          sight.get("bind").orElse(sight).place())));
    }
    return List.copyOf(all);
  }

  private Assessment.ReadingAccount reader(
      String directory, String bind, boolean inClear, String whose, Place place) {
    List<Integer> found =
        find(SubjectKind.ACCOUNT, bind).stream()
            .filter(account -> facts.source(account).equals(directory))
            .toList();
    if (found.size() != 1) {
      problems.warning(
          place,
          "bind: "
              + Problem.quote(bind)
              + (found.isEmpty() ? " is not in what was read of " : " fits several accounts of ")
              + directory,
          "the login name or DN of an account that was read; until then it is not known what it"
              + " may do besides reading");
    }
    return new Assessment.ReadingAccount(
        directory, found.size() == 1 ? found.get(0) : -1, bind, inClear, whose);
  }
}
