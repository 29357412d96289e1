package org.sobercompass.sources.live;

import com.unboundid.asn1.ASN1OctetString;
import com.unboundid.ldap.sdk.Control;
import com.unboundid.ldap.sdk.Entry;
import com.unboundid.ldap.sdk.LDAPException;
import com.unboundid.ldap.sdk.SearchRequest;
import com.unboundid.ldap.sdk.SearchResult;
import com.unboundid.ldap.sdk.SearchScope;
import com.unboundid.ldap.sdk.controls.SimplePagedResultsControl;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import org.sobercompass.sources.directory.DirectoryKind;
import org.sobercompass.sources.directory.DirectorySchema;
import org.sobercompass.sources.directory.Listings;

/**
 * Asks a directory what it is and proposes the settings that fit: looks at up to {@link #MOST}
 * entries, each with the attributes that could matter only.
 */
public final class Probe {
  /** How many entries are looked at. */
  public static final int MOST = 50_000;

  private static final List<String> LOGINS =
      List.of("uid", "sAMAccountName", "userPrincipalName", "mail", "cn");
  private static final List<String> DISPLAYS = List.of("displayName", "cn", "gecos");
  private static final List<String> IDS =
      List.of("entryUUID", "objectGUID", "nsUniqueId", "objectSid");
  private static final List<String> MEMBERS =
      List.of("member", "uniqueMember", "memberUid", "memberURL");
  private static final List<String> GROUP_NAMES = List.of("cn", "sAMAccountName");
  private static final List<String> ACCOUNT_CLASSES =
      List.of("user", "inetorgperson", "posixaccount", "person");
  private static final List<String> GROUP_CLASSES =
      List.of("group", "groupofnames", "groupofuniquenames", "posixgroup");
  private static final String[] ASKED = asked();

  private final LdapSession session;
  private final Map<String, Sample> samples = new HashMap<>();
  private int looked;
  private boolean all = true;
  private int posix;
  private int persons;
  private int hidden;
  private Optional<DirectorySchema> schema = Optional.empty();

  /** Probes over an open session. */
  public Probe(LdapSession session) {
    this.session = session;
  }

  private static String[] asked() {
    Set<String> all = new LinkedHashSet<>(List.of("objectClass"));
    all.addAll(LOGINS);
    all.addAll(DISPLAYS);
    all.addAll(IDS);
    all.addAll(MEMBERS);
    all.addAll(GROUP_NAMES);
    return all.toArray(String[]::new);
  }

  /** Looks, and proposes. */
  public SettingsProposal propose() {
    RootEntry root = session.root();
    schema = session.schema();
    List<String> contexts =
        session.access().bases().isEmpty() ? root.contexts() : session.access().bases();
    DirectoryKind kind = root.ad() ? DirectoryKind.AD : DirectoryKind.STANDARD;
    for (String sort : List.of("account", "group", "unit", "other")) {
      samples.put(sort, new Sample(List.of(ASKED)));
    }
    for (String context : contexts) {
      look(context, root.pages(), kind);
    }
    boolean onlyPosix = !root.ad() && posix > 0 && persons == 0;
    DirectoryKind proposed = onlyPosix ? DirectoryKind.POSIX : kind;
    Sample accounts = sample("account");
    Sample groups = sample("group");
    return new SettingsProposal(
        session.access(),
        root,
        session.identity(),
        looked,
        all,
        proposed.id(),
        new SettingsProposal.Counts(
            accounts.size(), groups.size(), sample("unit").size(), sample("other").size()),
        new SettingsProposal.Bases(accounts.bases(contexts), groups.bases(contexts)),
        settings(proposed, accounts, groups),
        schema,
        hidden);
  }

  private Sample sample(String sort) {
    Sample sample = samples.get(sort);
    if (sample == null) {
      throw new IllegalArgumentException(sort);
    }
    return sample;
  }

  private static List<SettingsProposal.Setting> settings(
      DirectoryKind kind, Sample accounts, Sample groups) {
    List<SettingsProposal.Setting> settings = new ArrayList<>();
    settings.add(filter("account filter", preferred(ACCOUNT_CLASSES, kind.accounts()), accounts));
    settings.add(accounts.best("login name", LOGINS, true));
    settings.add(accounts.best("display name", DISPLAYS, false));
    settings.add(accounts.best("account id", IDS, true));
    settings.add(filter("group filter", preferred(GROUP_CLASSES, kind.groups()), groups));
    settings.add(groups.best("group name", GROUP_NAMES, true));
    settings.add(groups.best("members", MEMBERS, false));
    settings.add(groups.best("group id", IDS, true));
    return settings;
  }

  /** All classes of a kind, those that say most first. */
  private static List<String> preferred(List<String> first, Set<String> all) {
    List<String> ordered = new ArrayList<>(first);
    ordered.retainAll(all);
    all.stream().sorted().filter(name -> !ordered.contains(name)).forEach(ordered::add);
    return ordered;
  }

  private static SettingsProposal.Setting filter(String name, List<String> classes, Sample sample) {
    List<String> cover = sample.cover(classes);
    String parts = cover.stream().map(c -> "(objectClass=" + c + ")").collect(Collectors.joining());
    return new SettingsProposal.Setting(
        name,
        cover.size() > 1 ? "(|" + parts + ")" : parts,
        sample.size(),
        sample.size(),
        true,
        "",
        List.of());
  }

  private void look(String base, boolean pages, DirectoryKind kind) {
    try {
      SearchRequest request = new SearchRequest(base, SearchScope.SUB, "(objectClass=*)", ASKED);
      ASN1OctetString cookie = null;
      do {
        if (pages) {
          request.setControls(
              new Control[] {new SimplePagedResultsControl(session.access().page(), cookie)});
        } else {
          request.setSizeLimit(MOST);
        }
        SearchResult result = session.connection().search(request);
        result.getSearchEntries().forEach(entry -> take(entry.duplicate(), kind));
        SimplePagedResultsControl answer = pages ? SimplePagedResultsControl.get(result) : null;
        cookie = answer != null && answer.moreResultsToReturn() ? answer.getCookie() : null;
      } while (cookie != null && looked < MOST);
      all &= cookie == null;
    } catch (LDAPException e) {
      throw LdapFailure.of(session.access(), "look below " + base, e);
    }
  }

  private void take(Entry entry, DirectoryKind kind) {
    looked++;
    // An entry is of the classes above its own too, of which only the schema knows (RFC 4512 3.3).
    schema
        .filter(s -> entry.hasAttribute("objectClass"))
        .ifPresent(
            s ->
                entry.setAttribute(
                    "objectClass", s.withSuperclasses(List.of(entry.getObjectClassValues()))));
    posix += entry.hasObjectClass("posixAccount") ? 1 : 0;
    persons += entry.hasObjectClass("inetOrgPerson") || entry.hasObjectClass("person") ? 1 : 0;
    String sort = Sample.sort(entry, kind);
    hidden += sort.equals("group") && Listings.hidesMembers(entry, schema) ? 1 : 0;
    sample(sort).take(entry);
  }
}
