package org.sobercompass.sources.live;

import com.unboundid.ldap.sdk.RootDSE;
import java.util.List;
import java.util.Optional;
import java.util.Set;

/**
 * What a directory says of itself in its root entry (RFC 4512 section 5.1).
 *
 * @param contexts its naming contexts
 * @param controls the object identifiers of the controls it supports
 * @param vendor its maker and version, if it says so
 * @param ad whether it is a directory as [MS-ADTS] describes
 * @param change a counter of changes, if it shows one
 */
public record RootEntry(
    List<String> contexts,
    Set<String> controls,
    Optional<String> vendor,
    boolean ad,
    Optional<String> change) {

  private static final String AD_CAPABILITY = "1.2.840.113556.1.4.800";
  private static final String PAGED = "1.2.840.113556.1.4.319";

  static RootEntry of(RootDSE root) {
    return new RootEntry(
        values(root.getNamingContextDNs()),
        Set.copyOf(values(root.getSupportedControlOIDs())),
        Optional.ofNullable(root.getVendorName())
            .map(name -> (name + " " + nothing(root.getVendorVersion())).strip()),
        values(root.getAttributeValues("supportedCapabilities")).contains(AD_CAPABILITY),
        Optional.ofNullable(root.getAttributeValue("highestCommittedUSN"))
            .or(() -> Optional.ofNullable(root.getAttributeValue("contextCSN"))));
  }

  /** Whether results can be asked for in pages (RFC 2696). */
  public boolean pages() {
    return controls.contains(PAGED);
  }

  private static String nothing(@org.jspecify.annotations.Nullable String text) {
    return text == null ? "" : text;
  }

  private static List<String> values(String @org.jspecify.annotations.Nullable [] values) {
    return values == null ? List.of() : List.of(values);
  }
}
