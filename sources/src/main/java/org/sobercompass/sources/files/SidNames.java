package org.sobercompass.sources.files;

import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import org.sobercompass.core.delegation.ReadDomains;
import org.sobercompass.core.descriptor.WellKnown;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.Implicit;
import org.sobercompass.core.membership.Sight;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.core.system.Grant;
import org.sobercompass.core.system.Trustees;

/**
 * Trustees of descriptors: SIDs of accounts and groups of the directory, the well-known ones
 * ([MS-DTYP] 2.4.2.4), and groups of the file server, of which the workspace says who is in them.
 * Not thread-safe.
 */
final class SidNames {
  static final String SID = "objectsid";
  static final String HISTORY = "sidhistory";
  private static final Set<String> SIGNED_IN =
      Set.of(WellKnown.AUTHENTICATED, WellKnown.NETWORK, WellKnown.THIS_ORGANIZATION);
  private static final String LOCAL = "S-1-5-32-";

  private final Facts facts;
  private final Trustees.Builder trustees;
  private final Map<String, Integer> subjectOf = new HashMap<>();
  private final Map<String, List<Integer>> local;
  private final Set<String> missing = new TreeSet<>();
  private final Set<String> unsaid = new TreeSet<>();
  private final Set<String> domains;

  SidNames(Facts facts, Sight sight, Map<String, List<Integer>> local) {
    this.facts = facts;
    this.local = local;
    this.domains = ReadDomains.of(facts, sight::covers, s -> facts.values(s, SID));
    this.trustees = new Trustees.Builder(facts, facts.implicit(Implicit.EVERYONE));
    for (String attribute : List.of(SID, HISTORY)) {
      for (int s = 0; s < facts.firstGroup() + facts.groups(); s++) {
        if (sight.covers(facts.source(s))) {
          for (String sid : facts.values(s, attribute)) {
            subjectOf.putIfAbsent(sid, s);
          }
        }
      }
    }
  }

  private static String domain(String sid) {
    return sid.substring(0, sid.lastIndexOf('-'));
  }

  Trustees.Builder trustees() {
    return trustees;
  }

  /** The trustee with a SID. */
  int trustee(String sid) {
    int known = trustees.find(sid);
    if (known >= 0) {
      return known;
    }
    if (local.containsKey(sid)) {
      return local(sid, local.get(sid));
    }
    if (sid.equals(WellKnown.EVERYONE)) {
      return trustees.add(sid, "everyone", facts.implicit(Implicit.EVERYONE));
    }
    if (SIGNED_IN.contains(sid)) {
      String label = WellKnown.name(sid).orElse(sid);
      return trustees.add(sid, label, facts.implicit(Implicit.SIGNED_IN));
    }
    Integer subject = subjectOf.get(sid);
    if (subject != null) {
      int made = trustees.add(sid, facts.label(subject), subject);
      if (!facts.values(subject, SID).contains(sid)) {
        trustees.earlier(made);
      }
      return made;
    }
    return unknown(sid);
  }

  private int local(String sid, List<Integer> subjects) {
    String label = WellKnown.name(sid).orElse(sid) + " of the file server";
    int made = trustees.add(sid, label, subjects.isEmpty() ? Grant.MISSING : subjects.get(0));
    subjects.stream().skip(1).forEach(s -> trustees.also(made, s));
    trustees.known(made);
    return made;
  }

  private int unknown(String sid) {
    int made = trustees.add(sid, WellKnown.name(sid).orElse(sid), Grant.MISSING);
    if (sid.startsWith(LOCAL)) {
      unsaid.add(sid);
      trustees.known(made);
      trustees.open(made);
    } else if (sid.startsWith("S-1-5-21-")) {
      missing.add(sid);
      if (!domains.contains(domain(sid))) {
        trustees.open(made);
      }
    } else {
      trustees.known(made);
    }
    return made;
  }

  /** Tells whom nobody knows, and which groups of the file server nothing is said about. */
  void tell(Place place, Problems problems) {
    for (String sid : missing) {
      problems.warning(
          place,
          "nobody in the directory has the SID " + sid,
          domains.contains(domain(sid))
              ? "the directory the account is of; nobody counts as it until then"
              : "the directory of its domain; until then it is not known who counts as it");
    }
    for (String sid : unsaid) {
      problems.warning(
          place,
          WellKnown.name(sid).orElse("the group")
              + " ("
              + sid
              + ") is a group of the file server,"
              + " and nothing says who is in it",
          "local-groups: "
              + Problem.quote(sid)
              + " with its members; until then answers that"
              + " depend on it are undecided");
    }
  }
}
