/**
 * Reads directories, applications, files and databases into an organization, and asks it.
 *
 * <p>What is exported is the door ({@code organization}), what it gives out, and the registrations
 * for further kinds. The rooms of the kinds are not.
 */
@org.jspecify.annotations.NullMarked
module org.sobercompass.sources {
  requires transitive org.sobercompass.core;
  requires static transitive org.jspecify;
  requires java.net.http;
  requires java.sql;
  requires com.hierynomus.smbj;
  requires com.networknt.schema;
  requires io.github.javadiffutils;
  requires org.dhatim.fastexcel.reader;
  requires org.postgresql.jdbc;
  requires org.snakeyaml.engine;
  requires tools.jackson.core;
  requires tools.jackson.databind;
  requires tools.jackson.dataformat.csv;
  requires tools.jackson.dataformat.yaml;
  requires unboundid.ldapsdk;

  exports org.sobercompass.organization;
  exports org.sobercompass.sources;
  exports org.sobercompass.sources.amendment;
  exports org.sobercompass.sources.crosswalk;
  exports org.sobercompass.sources.disk;
  exports org.sobercompass.sources.text;
  exports org.sobercompass.sources.workspace;
  exports org.sobercompass.sources.descriptor to
      org.sobercompass.cli;
  exports org.sobercompass.sources.live to
      org.sobercompass.cli;
  exports org.sobercompass.sources.questions to
      org.sobercompass.cli;
  exports org.sobercompass.sources.review to
      org.sobercompass.cli;
  exports org.sobercompass.sources.survey to
      org.sobercompass.cli;
  exports org.sobercompass.sources.directory to
      org.sobercompass.cli;

  uses org.sobercompass.sources.Collecting;
  uses org.sobercompass.sources.ProposalForm;
  uses org.sobercompass.sources.SourceKind;
  uses org.sobercompass.sources.SystemFormat;
  uses org.sobercompass.sources.TargetKind;

  provides org.sobercompass.sources.Collecting with
      org.sobercompass.sources.database.DatabaseCollecting,
      org.sobercompass.sources.files.FilesCollecting,
      org.sobercompass.sources.files.SharesCollecting;
  provides org.sobercompass.sources.SourceKind with
      org.sobercompass.sources.live.LdapKind.Standard,
      org.sobercompass.sources.live.LdapKind.Posix,
      org.sobercompass.sources.live.LdapKind.Ad,
      org.sobercompass.sources.scim.ScimKind,
      org.sobercompass.sources.local.AccountsKind,
      org.sobercompass.sources.local.HostKind,
      org.sobercompass.sources.database.RoleKind;
  provides org.sobercompass.sources.SystemFormat with
      org.sobercompass.sources.roles.RoleFormat,
      org.sobercompass.sources.files.FileFormat.Shared,
      org.sobercompass.sources.files.FileFormat.Nfs4,
      org.sobercompass.sources.files.FileFormat.Posix,
      org.sobercompass.sources.database.DatabaseFormat;
  provides org.sobercompass.sources.TargetKind with
      org.sobercompass.sources.live.LdapTargetKind,
      org.sobercompass.sources.database.SqlTargetKind,
      org.sobercompass.sources.files.PosixTargetKind,
      org.sobercompass.sources.files.SharedTargetKind,
      org.sobercompass.sources.files.ShareListTargetKind,
      org.sobercompass.sources.files.Nfs4TargetKind,
      org.sobercompass.sources.scim.ScimTargetKind,
      org.sobercompass.sources.workspace.WorkspaceTargetKind;
  provides org.sobercompass.sources.ProposalForm with
      org.sobercompass.sources.database.SqlProposals;
}
