/**
 * Facts, memberships, deciders, answers and findings, without input or output.
 *
 * <p>What is exported is the API. The kinds of system are built by readers only; the families of
 * finders are nobody's business but those that run them.
 */
@org.jspecify.annotations.NullMarked
module org.sobercompass.core {
  requires static transitive org.jspecify;

  exports org.sobercompass.core.access;
  exports org.sobercompass.core.admin;
  exports org.sobercompass.core.amendment;
  exports org.sobercompass.core.audit;
  exports org.sobercompass.core.carry;
  exports org.sobercompass.core.comparison;
  exports org.sobercompass.core.crosswalk;
  exports org.sobercompass.core.delegation;
  exports org.sobercompass.core.descriptor;
  exports org.sobercompass.core.expect;
  exports org.sobercompass.core.facts;
  exports org.sobercompass.core.filter;
  exports org.sobercompass.core.findings;
  exports org.sobercompass.core.findings.details;
  exports org.sobercompass.core.key;
  exports org.sobercompass.core.membership;
  exports org.sobercompass.core.person;
  exports org.sobercompass.core.problem;
  exports org.sobercompass.core.proposal;
  exports org.sobercompass.core.readiness;
  exports org.sobercompass.core.removal;
  exports org.sobercompass.core.review;
  exports org.sobercompass.core.scope;
  exports org.sobercompass.core.store;
  exports org.sobercompass.core.system;
  exports org.sobercompass.core.system.database to
      org.sobercompass.sources;
  exports org.sobercompass.core.system.directory to
      org.sobercompass.sources;
  exports org.sobercompass.core.system.files to
      org.sobercompass.sources;
  exports org.sobercompass.core.system.remark;
  exports org.sobercompass.core.system.roles to
      org.sobercompass.sources;
  exports org.sobercompass.core.system.scopes to
      org.sobercompass.sources;
}
