using Microsoft.AspNetCore.DataProtection.EntityFrameworkCore;
using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.Identity.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore;

namespace SteadyLintel.Store;

/// <summary>Everything that is kept, in one PostgreSQL database; large contents in a folder beside it where one is set.</summary>
/// <param name="options">Which database.</param>
/// <param name="folder">Where large contents are kept; null for the database itself.</param>
public sealed class LintelDb(DbContextOptions<LintelDb> options, BlobFolder? folder = null)
    : IdentityDbContext<AppUser, IdentityRole<Guid>, Guid>(options),
        IDataProtectionKeyContext
{
    /// <summary>The filter that hides revisions that are held, turned down or withdrawn.</summary>
    public const string InUse = nameof(InUse);

    /// <summary>Jobs.</summary>
    public DbSet<Job> Jobs => Set<Job>();

    /// <summary>Parties.</summary>
    public DbSet<Party> Parties => Set<Party>();

    /// <summary>Members.</summary>
    public DbSet<Membership> Memberships => Set<Membership>();

    /// <summary>Invitations.</summary>
    public DbSet<Invitation> Invitations => Set<Invitation>();

    /// <summary>Browsers that are signed in.</summary>
    public DbSet<SignInSession> Sessions => Set<SignInSession>();

    /// <summary>Secrets of programs.</summary>
    public DbSet<AccessToken> AccessTokens => Set<AccessToken>();

    /// <summary>The record.</summary>
    public DbSet<ActivityLine> Record => Set<ActivityLine>();

    /// <summary>Mails.</summary>
    public DbSet<OutgoingMail> Mails => Set<OutgoingMail>();

    /// <summary>Sources.</summary>
    public DbSet<Source> Sources => Set<Source>();

    /// <summary>Deliveries.</summary>
    public DbSet<Delivery> Deliveries => Set<Delivery>();

    /// <summary>Accepted settings-out.</summary>
    public DbSet<SettingOutRow> SettingOuts => Set<SettingOutRow>();

    /// <summary>Where large contents are kept; null for the database itself.</summary>
    public BlobFolder? Folder { get; } = folder;

    /// <summary>The large contents.</summary>
    public Blobs Blobs => field ??= new Blobs(this);

    /// <summary>What is said beside the files of sources.</summary>
    public DbSet<AmendmentRow> Amendments => Set<AmendmentRow>();

    /// <summary>Revisions.</summary>
    public DbSet<Revision> Revisions => Set<Revision>();

    /// <summary>Pictures of handed-over files.</summary>
    public DbSet<FilePicture> FilePictures => Set<FilePicture>();

    /// <summary>Pieces of originals and of handed-over files.</summary>
    public DbSet<BlobPiece> Pieces => Set<BlobPiece>();

    /// <summary>Storeys of revisions.</summary>
    public DbSet<LevelRow> Levels => Set<LevelRow>();

    /// <summary>Counts of revisions.</summary>
    public DbSet<FacetRow> Facets => Set<FacetRow>();

    /// <summary>Elements of revisions.</summary>
    public DbSet<ElementRow> Elements => Set<ElementRow>();

    /// <summary>Contents of property sets of revisions.</summary>
    public DbSet<PropertySetRow> PropertySets => Set<PropertySetRow>();

    /// <summary>Geometry chunks of revisions.</summary>
    public DbSet<ChunkRow> Chunks => Set<ChunkRow>();

    /// <summary>Chunk contents.</summary>
    public DbSet<ChunkContent> ChunkContents => Set<ChunkContent>();

    /// <summary>What jobs keep under names.</summary>
    public DbSet<LibraryItem> Library => Set<LibraryItem>();

    /// <summary>Orders.</summary>
    public DbSet<OrderRow> Orders => Set<OrderRow>();

    /// <summary>Runs of orders.</summary>
    public DbSet<Transmittal> Transmittals => Set<Transmittal>();

    /// <summary>Files of runs.</summary>
    public DbSet<TransmittalFile> TransmittalFiles => Set<TransmittalFile>();

    /// <summary>What recipients confirmed.</summary>
    public DbSet<Receipt> Receipts => Set<Receipt>();

    /// <summary>Topics.</summary>
    public DbSet<TopicRow> Topics => Set<TopicRow>();

    /// <summary>Files of topics.</summary>
    public DbSet<TopicPartRow> TopicParts => Set<TopicPartRow>();

    /// <summary>What happened to topics.</summary>
    public DbSet<TopicEvent> TopicEvents => Set<TopicEvent>();

    /// <summary>What jobs say about their topics together.</summary>
    public DbSet<TopicProject> TopicProjects => Set<TopicProject>();

    /// <summary>Topic files that are looked at before they are imported.</summary>
    public DbSet<TopicImport> TopicImports => Set<TopicImport>();

    /// <summary>Topics that wait to be mailed together.</summary>
    public DbSet<TopicNews> TopicNews => Set<TopicNews>();

    /// <summary>Other servers that jobs share topics with.</summary>
    public DbSet<TopicServer> TopicServers => Set<TopicServer>();

    /// <summary>What another server and the job both know of a topic.</summary>
    public DbSet<TopicServerTopic> TopicServerTopics => Set<TopicServerTopic>();

    /// <inheritdoc/>
    public DbSet<DataProtectionKey> DataProtectionKeys => Set<DataProtectionKey>();

    /// <inheritdoc/>
    protected override void OnModelCreating(ModelBuilder builder)
    {
        base.OnModelCreating(builder);
        builder.UseOpenIddict<Guid>();
        builder.Entity<AppUser>().Property(u => u.SingleKeys).HasDefaultValue(true);
        builder.Entity<Job>(e =>
        {
            e.HasIndex(j => j.Code).IsUnique();
            e.Property(j => j.Levels).HasColumnType("jsonb");
            e.Property(j => j.Settings).HasColumnType("jsonb");
            e.HasMany(j => j.Parties).WithOne().HasForeignKey(p => p.JobId);
            e.HasMany(j => j.Sources).WithOne().HasForeignKey(s => s.JobId);
            e.HasMany(j => j.Members).WithOne(m => m.Job).HasForeignKey(m => m.JobId);
        });
        builder.Entity<Party>().HasIndex(p => new { p.JobId, p.Code }).IsUnique();
        builder.Entity<Membership>(e =>
        {
            e.HasKey(m => new { m.JobId, m.UserId });
            e.HasIndex(m => m.UserId);
            e.HasOne<AppUser>().WithMany().HasForeignKey(m => m.UserId);
        });
        builder.Entity<Invitation>(e =>
        {
            e.HasIndex(i => i.SecretHash).IsUnique();
            e.HasOne(i => i.Job).WithMany().HasForeignKey(i => i.JobId);
        });
        builder.Entity<SignInSession>(e =>
        {
            e.HasIndex(s => s.UserId);
            e.HasOne<AppUser>().WithMany().HasForeignKey(s => s.UserId);
        });
        builder.Entity<AccessToken>(e =>
        {
            e.HasIndex(t => t.SecretHash).IsUnique();
            e.HasOne<AppUser>().WithMany().HasForeignKey(t => t.UserId);
        });
        // No reference to job or person: the record outlives them.
        builder.Entity<ActivityLine>().HasIndex(r => new { r.JobId, r.Id });
        builder.Entity<OutgoingMail>().HasIndex(m => new { m.EndedAt, m.NextAt });
        builder.Entity<Source>(e =>
        {
            e.HasIndex(s => new { s.PartyId, s.Name }).IsUnique();
            e.Property(s => s.Protection).HasColumnType("jsonb");
            e.HasOne(s => s.Party).WithMany().HasForeignKey(s => s.PartyId);
        });
        builder.Entity<SettingOutRow>(e =>
        {
            e.Property(s => s.Document).HasColumnType("jsonb");
            e.Property(s => s.Preparation).HasColumnType("jsonb");
            e.HasOne<Source>().WithMany(s => s.SettingOuts).HasForeignKey(s => s.SourceId);
        });
        builder.Entity<AmendmentRow>(e =>
        {
            e.Property(a => a.Spec).HasColumnType("jsonb");
            e.Property(a => a.File).HasColumnType("jsonb");
            e.Ignore(a => a.IsInForce);
            // Of a source one amendment about the same is in force: of two people who say something at once the second learns of it.
            e.HasIndex(a => new { a.SourceId, a.Subject }).IsUnique().HasFilter("step BETWEEN 1 AND 4");
            e.HasIndex(a => new { a.SourceId, a.Element });
            e.HasOne(a => a.Source).WithMany().HasForeignKey(a => a.SourceId);
        });
        builder.Entity<LibraryItem>(e =>
        {
            e.ToTable("library");
            e.HasIndex(i => new
                {
                    i.JobId,
                    i.Kind,
                    i.Name,
                    i.Version,
                })
                .IsUnique();
            e.Property(i => i.Facts).HasColumnType("jsonb");
            e.HasOne<Job>().WithMany().HasForeignKey(i => i.JobId);
        });
        builder.Entity<Delivery>(e =>
        {
            e.Ignore(d => d.IsInterrupted);
            e.HasIndex(d => d.Sha256);
            e.HasIndex(d => d.State);
            e.HasOne(d => d.Source).WithMany(s => s.Deliveries).HasForeignKey(d => d.SourceId);
            e.Ignore(d => d.IsFinal);
        });
        builder.Entity<Revision>(e =>
        {
            e.HasIndex(r => new { r.SourceId, r.Number }).IsUnique();
            e.HasQueryFilter(InUse, r => r.InUse);
            e.Property(r => r.InUse).HasDefaultValue(true);
            e.Property(r => r.Report).HasColumnType("jsonb");
            e.Property(r => r.Frame).HasColumnType("jsonb");
            e.Property(r => r.Jump).HasColumnType("jsonb");
            e.HasOne(r => r.Delivery).WithOne(d => d.Revision).HasForeignKey<Revision>(r => r.Id);
            e.HasOne<Source>().WithMany(s => s.Revisions).HasForeignKey(r => r.SourceId);
        });
        builder.Entity<BlobPiece>().HasKey(p => new { p.BlobId, p.Number });
        builder.Entity<LevelRow>(e => e.HasKey(l => new { l.RevisionId, l.Number }));
        builder.Entity<FacetRow>(e => e.HasKey(f => new { f.RevisionId, f.Number }));
        builder.Entity<ElementRow>(e =>
        {
            e.HasKey(x => new { x.RevisionId, x.Number });
            e.HasIndex(x => new { x.RevisionId, x.GlobalId });
            e.HasIndex(x => new { x.RevisionId, x.Storey }).HasFilter("member IS NOT NULL");
        });
        builder.Entity<PropertySetRow>(e =>
        {
            e.HasKey(p => new { p.RevisionId, p.Number });
            e.Property(p => p.Values).HasColumnType("jsonb");
        });
        builder.Entity<ChunkRow>(e =>
        {
            e.HasKey(c => new { c.RevisionId, c.Number });
            e.HasIndex(c => c.Hash);
        });
        builder.Entity<ChunkContent>().HasKey(c => c.Hash);
        builder.Entity<OrderRow>(e =>
        {
            e.HasIndex(o => new { o.JobId, o.Number }).IsUnique();
            e.Property(o => o.Version).IsConcurrencyToken();
            e.HasQueryFilter(o => o.DeletedAt == null);
            e.Property(o => o.Spec).HasColumnType("jsonb");
        });
        builder.Entity<Transmittal>(e =>
        {
            e.HasIndex(t => new { t.OrderId, t.Number }).IsUnique();
            e.HasIndex(t => t.State);
            e.Property(t => t.Spec).HasColumnType("jsonb");
            e.Property(t => t.Result).HasColumnType("jsonb");
            e.Property(t => t.Basis).HasColumnType("jsonb");
            e.Ignore(t => t.IsReleased);
            e.HasOne(t => t.Order).WithMany(o => o.Transmittals).HasForeignKey(t => t.OrderId);
        });
        builder.Entity<TransmittalFile>(e =>
        {
            e.HasKey(f => new { f.TransmittalId, f.Name });
            e.HasOne<Transmittal>().WithMany(t => t.Files).HasForeignKey(f => f.TransmittalId);
        });
        builder.Entity<FilePicture>(e =>
        {
            e.HasKey(p => new { p.TransmittalId, p.Name });
            e.HasOne<TransmittalFile>().WithOne().HasForeignKey<FilePicture>(p => new { p.TransmittalId, p.Name });
        });
        builder.Entity<Receipt>(e =>
        {
            e.HasKey(r => new
            {
                r.TransmittalId,
                r.Name,
                r.UserId,
            });
            e.HasOne<Transmittal>().WithMany(t => t.Receipts).HasForeignKey(r => r.TransmittalId);
        });
        ConfigureTopics(builder);
        // Elements belong to a revision too, by a trigger that deletes them with it: checking a reference for each of two million rows
        // takes as long as copying them.
        foreach (var owned in (Type[])[typeof(LevelRow), typeof(FacetRow), typeof(PropertySetRow), typeof(ChunkRow)])
            builder.Entity(owned).HasOne(typeof(Revision)).WithMany().HasForeignKey("RevisionId");
    }

    private static void ConfigureTopics(ModelBuilder builder)
    {
        builder.Entity<TopicRow>(e =>
        {
            e.HasIndex(t => new { t.JobId, t.Number }).IsUnique();
            e.HasIndex(t => new { t.JobId, t.Guid }).IsUnique();
            e.HasIndex(t => new
            {
                t.JobId,
                t.Closed,
                t.OwedBy,
            });
            // What it was made from has one open topic: asked again, it is found.
            e.HasIndex(t => new { t.JobId, t.Cause }).IsUnique().HasFilter("cause IS NOT NULL AND NOT closed");
            e.HasIndex(t => t.Elements).HasMethod("gin");
            e.Property(t => t.Version).IsConcurrencyToken();
            e.HasOne<Job>().WithMany().HasForeignKey(t => t.JobId);
        });
        builder.Entity<TopicPartRow>(e =>
        {
            e.HasIndex(p => new
            {
                p.JobId,
                p.TopicId,
                p.Name,
            });
            e.HasOne<Job>().WithMany().HasForeignKey(p => p.JobId);
            e.HasOne<TopicRow>().WithMany(t => t.Parts).HasForeignKey(p => p.TopicId).OnDelete(DeleteBehavior.Cascade);
        });
        builder.Entity<TopicEvent>(e =>
        {
            e.HasIndex(t => new { t.TopicId, t.Id });
            e.HasOne<TopicRow>().WithMany().HasForeignKey(t => t.TopicId);
        });
        builder.Entity<TopicProject>(e =>
        {
            e.HasKey(t => t.JobId);
            e.HasOne<Job>().WithOne().HasForeignKey<TopicProject>(t => t.JobId);
        });
        builder.Entity<TopicImport>().HasOne<Job>().WithMany().HasForeignKey(t => t.JobId);
        builder.Entity<TopicNews>(e =>
        {
            e.HasIndex(n => new { n.JobId, n.UserId });
            e.HasOne<Membership>()
                .WithMany()
                .HasForeignKey(n => new { n.JobId, n.UserId })
                .OnDelete(DeleteBehavior.Cascade);
        });
        builder.Entity<TopicServer>(e =>
        {
            e.HasIndex(s => s.NextAt);
            e.HasOne<Job>().WithMany().HasForeignKey(s => s.JobId);
        });
        builder.Entity<TopicServerTopic>(e =>
        {
            e.HasKey(t => new { t.ServerId, t.Guid });
            e.HasIndex(t => new { t.ServerId, t.TheirGuid }).IsUnique();
            e.HasOne<TopicServer>().WithMany().HasForeignKey(t => t.ServerId).OnDelete(DeleteBehavior.Cascade);
        });
    }
}
