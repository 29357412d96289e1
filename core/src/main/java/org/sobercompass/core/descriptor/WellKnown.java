package org.sobercompass.core.descriptor;

import java.util.Map;
import java.util.Optional;

/** Trustees that every directory of [MS-ADTS] has ([MS-DTYP] 2.4.2.4), by SID. */
public final class WellKnown {
  public static final String EVERYONE = "S-1-1-0";
  public static final String CREATOR_OWNER = "S-1-3-0";
  public static final String CREATOR_GROUP = "S-1-3-1";

  /** What the owner may do, instead of what owners usually may. */
  public static final String OWNER_RIGHTS = "S-1-3-4";

  public static final String NETWORK = "S-1-5-2";
  public static final String ANONYMOUS = "S-1-5-7";
  public static final String ENTERPRISE_CONTROLLERS = "S-1-5-9";

  /** The account that the object itself is. */
  public static final String SELF = "S-1-5-10";

  public static final String AUTHENTICATED = "S-1-5-11";
  public static final String THIS_ORGANIZATION = "S-1-5-15";
  public static final String SYSTEM = "S-1-5-18";
  public static final String ADMINISTRATORS = "S-1-5-32-544";

  private static final Map<String, String> NAMES =
      Map.ofEntries(
          Map.entry(EVERYONE, "everyone"),
          Map.entry(CREATOR_OWNER, "whoever creates it"),
          Map.entry(CREATOR_GROUP, "the group of whoever creates it"),
          Map.entry(OWNER_RIGHTS, "its owner"),
          Map.entry(NETWORK, "everyone over the network"),
          Map.entry(ANONYMOUS, "anonymous"),
          Map.entry(ENTERPRISE_CONTROLLERS, "the domain controllers"),
          Map.entry(SELF, "the account itself"),
          Map.entry(AUTHENTICATED, "everyone signed in"),
          Map.entry(THIS_ORGANIZATION, "everyone of this organization"),
          Map.entry(SYSTEM, "the system itself"),
          Map.entry(ADMINISTRATORS, "Administrators"));

  private WellKnown() {}

  /** The name of a SID that is the same everywhere. */
  public static Optional<String> name(String sid) {
    return Optional.ofNullable(NAMES.get(sid));
  }

  /** Whether it means very many: everyone, everyone signed in, and their like. */
  public static boolean isBroad(String sid) {
    return sid.equals(EVERYONE)
        || sid.equals(AUTHENTICATED)
        || sid.equals(ANONYMOUS)
        || sid.equals(NETWORK)
        || sid.equals(THIS_ORGANIZATION)
        || sid.equals("S-1-5-32-545")
        || sid.equals("S-1-5-32-546")
        || sid.equals("S-1-5-32-554");
  }
}
