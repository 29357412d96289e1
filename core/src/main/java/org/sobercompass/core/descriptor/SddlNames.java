package org.sobercompass.core.descriptor;

import java.util.HashMap;
import java.util.Map;
import java.util.Optional;

/** The two letters that stand for trustees in SDDL ([MS-DTYP] 2.5.1.1). */
final class SddlNames {
  private static final Map<String, String> FIXED =
      Map.ofEntries(
          Map.entry("WD", "S-1-1-0"),
          Map.entry("CO", "S-1-3-0"),
          Map.entry("CG", "S-1-3-1"),
          Map.entry("OW", "S-1-3-4"),
          Map.entry("NU", "S-1-5-2"),
          Map.entry("IU", "S-1-5-4"),
          Map.entry("SU", "S-1-5-6"),
          Map.entry("AN", "S-1-5-7"),
          Map.entry("ED", "S-1-5-9"),
          Map.entry("PS", "S-1-5-10"),
          Map.entry("AU", "S-1-5-11"),
          Map.entry("RC", "S-1-5-12"),
          Map.entry("SY", "S-1-5-18"),
          Map.entry("LS", "S-1-5-19"),
          Map.entry("NS", "S-1-5-20"),
          Map.entry("WR", "S-1-5-33"),
          Map.entry("BA", "S-1-5-32-544"),
          Map.entry("BU", "S-1-5-32-545"),
          Map.entry("BG", "S-1-5-32-546"),
          Map.entry("PU", "S-1-5-32-547"),
          Map.entry("AO", "S-1-5-32-548"),
          Map.entry("SO", "S-1-5-32-549"),
          Map.entry("PO", "S-1-5-32-550"),
          Map.entry("BO", "S-1-5-32-551"),
          Map.entry("RE", "S-1-5-32-552"),
          Map.entry("RU", "S-1-5-32-554"),
          Map.entry("RD", "S-1-5-32-555"),
          Map.entry("NO", "S-1-5-32-556"),
          Map.entry("MU", "S-1-5-32-558"),
          Map.entry("LU", "S-1-5-32-559"),
          Map.entry("IS", "S-1-5-32-568"),
          Map.entry("CY", "S-1-5-32-569"),
          Map.entry("ER", "S-1-5-32-573"),
          Map.entry("CD", "S-1-5-32-574"),
          Map.entry("RA", "S-1-5-32-575"),
          Map.entry("ES", "S-1-5-32-576"),
          Map.entry("MS", "S-1-5-32-577"),
          Map.entry("HA", "S-1-5-32-578"),
          Map.entry("AA", "S-1-5-32-579"),
          Map.entry("RM", "S-1-5-32-580"),
          Map.entry("LW", "S-1-16-4096"),
          Map.entry("ME", "S-1-16-8192"),
          Map.entry("MP", "S-1-16-8448"),
          Map.entry("HI", "S-1-16-12288"),
          Map.entry("SI", "S-1-16-16384"));

  private static final Map<String, Integer> OF_DOMAIN =
      Map.ofEntries(
          Map.entry("RO", 498),
          Map.entry("LA", 500),
          Map.entry("LG", 501),
          Map.entry("DA", 512),
          Map.entry("DU", 513),
          Map.entry("DG", 514),
          Map.entry("DC", 515),
          Map.entry("DD", 516),
          Map.entry("CA", 517),
          Map.entry("SA", 518),
          Map.entry("EA", 519),
          Map.entry("PA", 520),
          Map.entry("CN", 522),
          Map.entry("AP", 525),
          Map.entry("KA", 526),
          Map.entry("EK", 527),
          Map.entry("RS", 553));

  private static final Map<String, String> LETTERS = new HashMap<>();

  static {
    FIXED.forEach((letters, sid) -> LETTERS.put(sid, letters));
  }

  private SddlNames() {}

  static Optional<String> sid(String letters, Optional<String> domain) {
    Integer rid = OF_DOMAIN.get(letters);
    return rid == null
        ? Optional.ofNullable(FIXED.get(letters))
        : domain.map(sid -> sid + "-" + rid);
  }

  static boolean isOfDomain(String letters) {
    return OF_DOMAIN.containsKey(letters);
  }

  /** Letters where they mean the same everywhere, else the SID itself. */
  static String letters(String sid) {
    return LETTERS.getOrDefault(sid, sid);
  }
}
