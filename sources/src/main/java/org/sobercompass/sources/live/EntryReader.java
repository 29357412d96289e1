package org.sobercompass.sources.live;

import com.unboundid.asn1.ASN1Integer;
import com.unboundid.asn1.ASN1OctetString;
import com.unboundid.asn1.ASN1Sequence;
import com.unboundid.ldap.sdk.Attribute;
import com.unboundid.ldap.sdk.Control;
import com.unboundid.ldap.sdk.DereferencePolicy;
import com.unboundid.ldap.sdk.Entry;
import com.unboundid.ldap.sdk.LDAPException;
import com.unboundid.ldap.sdk.ResultCode;
import com.unboundid.ldap.sdk.SearchRequest;
import com.unboundid.ldap.sdk.SearchResult;
import com.unboundid.ldap.sdk.SearchResultEntry;
import com.unboundid.ldap.sdk.SearchResultListener;
import com.unboundid.ldap.sdk.SearchResultReference;
import com.unboundid.ldap.sdk.SearchScope;
import com.unboundid.ldap.sdk.controls.ManageDsaITRequestControl;
import com.unboundid.ldap.sdk.controls.SimplePagedResultsControl;
import com.unboundid.ldap.sdk.schema.Schema;
import java.io.Serial;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.function.Consumer;
import org.jspecify.annotations.Nullable;
import org.sobercompass.core.problem.Place;
import org.sobercompass.sources.Bounds;
import org.sobercompass.sources.directory.Secrets;

/**
 * Reads all entries below a base, in pages (RFC 2696) where the server has them, and completes
 * values that come in ranges ([MS-ADTS] 3.1.1.3.1.3.3). Secrets are left out. Not thread-safe.
 */
final class EntryReader {
  /** Asked for by name: user attributes, operational ones, and ids that some show only then. */
  private static final String[] ATTRIBUTES = {
    "*", "+", "entryUUID", "nsUniqueId", "objectGUID", "objectSid", "memberOf", "modifyTimestamp"
  };

  /** Asks for parts of security descriptors ([MS-ADTS] 3.1.1.3.4.1.11). */
  static final String LISTS = "1.2.840.113556.1.4.801";

  /**
   * Owner, group and the access control list, as BER: what anybody may read who may read at all.
   */
  private static final ASN1OctetString OWNER_GROUP_AND_LIST =
      new ASN1OctetString(new ASN1Sequence(new ASN1Integer(7)).encode());

  private final LdapSession session;
  private final boolean pages;
  private final boolean asStored;
  private final boolean lists;
  private final Consumer<Entry> take;
  private final List<String> referrals = new ArrayList<>();
  private final Bounds bounds;
  private final Place place;
  private int came;
  private final List<Entry> waiting = new ArrayList<>();

  EntryReader(LdapSession session, RootEntry root, Bounds bounds, Consumer<Entry> take) {
    this.session = session;
    this.bounds = bounds;
    this.place = Place.of(session.access().name());
    this.pages = root.pages();
    this.asStored = root.controls().contains(ManageDsaITRequestControl.MANAGE_DSA_IT_REQUEST_OID);
    this.lists = root.controls().contains(LISTS);
    this.take = take;
  }

  /** What to ask for: in directories of [MS-ADTS] what is computed, and the lists, by name. */
  private String[] attributes() {
    List<String> all = new ArrayList<>(List.of(ATTRIBUTES));
    if (lists) {
      all.addAll(
          List.of(
              "nTSecurityDescriptor",
              "msDS-UserPasswordExpiryTimeComputed",
              "msDS-User-Account-Control-Computed",
              "msDS-ResultantPSO"));
    }
    return all.toArray(String[]::new);
  }

  /** Where the directory says the rest is; not followed. */
  List<String> referrals() {
    return referrals;
  }

  /** Reads one base whole, or throws. */
  void read(String base, String filter) throws LDAPException {
    SearchRequest request =
        new SearchRequest(
            new Listener(),
            base,
            SearchScope.SUB,
            DereferencePolicy.NEVER,
            0,
            0,
            false,
            filter,
            attributes());
    ASN1OctetString cookie = null;
    do {
      request.setControls(controls(cookie));
      SearchResult result = session.connection().search(request);
      if (came == 0) {
        bounds.nothing(place);
      }
      came = 0;
      complete();
      SimplePagedResultsControl answer = pages ? SimplePagedResultsControl.get(result) : null;
      cookie = answer != null && answer.moreResultsToReturn() ? answer.getCookie() : null;
    } while (cookie != null);
  }

  /** Entries as they are stored: rules not expanded, references as entries (RFC 3296). */
  private Control[] controls(@Nullable ASN1OctetString cookie) {
    List<Control> controls = new ArrayList<>();
    if (pages) {
      controls.add(new SimplePagedResultsControl(session.access().page(), cookie, true));
    }
    if (lists) {
      controls.add(new Control(LISTS, false, OWNER_GROUP_AND_LIST));
    }
    if (asStored) {
      controls.add(new ManageDsaITRequestControl(false));
    }
    return controls.toArray(Control[]::new);
  }

  /**
   * Keeps an entry without its secrets. One with a range waits until the page is through: asking
   * for more while the page comes in could fill the connection's queue and stop both.
   */
  private void keep(Entry entry) {
    came++;
    bounds.came(place, size(entry));
    Entry kept = new Entry(entry.getDN());
    boolean whole = true;
    for (Attribute attribute : entry.getAttributes()) {
      String base = attribute.getBaseName().toLowerCase(Locale.ROOT);
      whole &= !isRange(attribute);
      if (!Secrets.isSecret(base) && attribute.size() > 0) {
        kept.addAttribute(attribute);
      }
    }
    if (entry.hasObjectClass("referral") && entry.hasAttribute("ref")) {
      referrals.addAll(List.of(entry.getAttributeValues("ref")));
    }
    if (whole) {
      take.accept(kept);
    } else {
      waiting.add(kept);
    }
  }

  /** How many bytes its values have. */
  private static long size(Entry entry) {
    long bytes = 0;
    for (Attribute attribute : entry.getAttributes()) {
      for (ASN1OctetString value : attribute.getRawValues()) {
        bytes += value.getValueLength();
      }
    }
    return bytes;
  }

  private static boolean isRange(Attribute attribute) {
    return attribute.getName().toLowerCase(Locale.ROOT).contains(";range=");
  }

  private void complete() throws LDAPException {
    for (Entry entry : waiting) {
      for (Attribute attribute : List.copyOf(entry.getAttributes())) {
        if (isRange(attribute)) {
          entry.removeAttribute(attribute.getName());
          entry.addAttribute(whole(entry.getDN(), attribute));
        }
      }
      take.accept(entry);
    }
    waiting.clear();
  }

  /** Asks for the ranges that follow until the one that ends with a star. */
  private Attribute whole(String dn, Attribute first) throws LDAPException {
    String name = first.getBaseName();
    List<ASN1OctetString> values = new ArrayList<>(List.of(first.getRawValues()));
    String option = first.getName();
    while (!option.endsWith("-*")) {
      String ask = name + ";range=" + values.size() + "-*";
      Attribute next = next(dn, ask, name);
      option = next.getName();
      if (!isRange(next)) {
        // Asked for a part, the server gives it all.
        return new Attribute(name, (Schema) null, next.getRawValues());
      }
      if (!option.toLowerCase(Locale.ROOT).contains(";range=" + values.size() + "-")) {
        throw new LDAPException(
            ResultCode.OTHER, "asked for " + ask + " of " + dn + ", the server gave " + option);
      }
      values.addAll(List.of(next.getRawValues()));
      for (ASN1OctetString value : next.getRawValues()) {
        bounds.came(place.entry(dn), value.getValueLength());
      }
    }
    return new Attribute(name, (Schema) null, values.toArray(new ASN1OctetString[0]));
  }

  private Attribute next(String dn, String ask, String name) throws LDAPException {
    Entry more = session.connection().getEntry(dn, ask);
    if (more != null) {
      for (Attribute attribute : more.getAttributes()) {
        if (attribute.getBaseName().equalsIgnoreCase(name) && attribute.size() > 0) {
          return attribute;
        }
      }
    }
    throw new LDAPException(
        ResultCode.NO_SUCH_ATTRIBUTE, "the rest of " + name + " of " + dn + " is not given");
  }

  private final class Listener implements SearchResultListener {
    @Serial private static final long serialVersionUID = 1L;

    @Override
    public void searchEntryReturned(SearchResultEntry entry) {
      keep(entry);
    }

    @Override
    public void searchReferenceReturned(SearchResultReference reference) {
      referrals.addAll(List.of(reference.getReferralURLs()));
    }
  }
}
