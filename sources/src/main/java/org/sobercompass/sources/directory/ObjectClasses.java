package org.sobercompass.sources.directory;

import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;

/**
 * The superclasses of the usual classes, from their published definitions (RFC 4519, RFC 4524, RFC
 * 2798, RFC 2307, [MS-ADSC]). An entry is of them too, whether they are listed or not (RFC 4512
 * section 3.3).
 */
final class ObjectClasses {
  private static final Map<String, String> ABOVE =
      Map.ofEntries(
          Map.entry("inetorgperson", "organizationalPerson"),
          Map.entry("organizationalperson", "person"),
          Map.entry("residentialperson", "person"),
          Map.entry("user", "organizationalPerson"),
          Map.entry("computer", "user"),
          Map.entry("person", "top"),
          Map.entry("account", "top"),
          Map.entry("posixaccount", "top"),
          Map.entry("shadowaccount", "top"),
          Map.entry("posixgroup", "top"),
          Map.entry("simplesecurityobject", "top"),
          Map.entry("groupofnames", "top"),
          Map.entry("groupofuniquenames", "top"),
          Map.entry("groupofurls", "top"),
          Map.entry("group", "top"),
          Map.entry("organizationalrole", "top"),
          Map.entry("organizationalunit", "top"),
          Map.entry("organization", "top"),
          Map.entry("domain", "top"),
          Map.entry("dcobject", "top"),
          Map.entry("country", "top"),
          Map.entry("locality", "top"),
          Map.entry("container", "top"),
          Map.entry("device", "top"));

  private ObjectClasses() {}

  /** These classes and those above them, as written first. */
  static List<String> withSuperclasses(List<String> written) {
    Set<String> seen = new LinkedHashSet<>();
    written.forEach(name -> seen.add(name.toLowerCase(Locale.ROOT)));
    Set<String> all = new LinkedHashSet<>(written);
    for (String name : written) {
      String above = ABOVE.get(name.toLowerCase(Locale.ROOT));
      while (above != null) {
        if (seen.add(above.toLowerCase(Locale.ROOT))) {
          all.add(above);
        }
        above = ABOVE.get(above.toLowerCase(Locale.ROOT));
      }
    }
    return List.copyOf(all);
  }
}
