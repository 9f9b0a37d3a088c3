using System;
using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;
using Npgsql.EntityFrameworkCore.PostgreSQL.Metadata;

#nullable disable

namespace SteadyLintel.Store.Migrations
{
    /// <inheritdoc />
    [DbContext(typeof(LintelDb))]
    [Migration("20261130221520_Topics")]
    public partial class Topics : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            // A party is asked by a topic from now on.
            migrationBuilder.DropColumn(
                name: "asked_at",
                table: "amendments");

            migrationBuilder.CreateTable(
                name: "topic_imports",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    job_id = table.Column<Guid>(type: "uuid", nullable: false),
                    blob_id = table.Column<Guid>(type: "uuid", nullable: false),
                    file_name = table.Column<string>(type: "text", nullable: false),
                    by = table.Column<Guid>(type: "uuid", nullable: false),
                    at = table.Column<DateTime>(type: "timestamp with time zone", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_topic_imports", x => x.id);
                    table.ForeignKey(
                        name: "fk_topic_imports_jobs_job_id",
                        column: x => x.job_id,
                        principalTable: "jobs",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "topic_projects",
                columns: table => new
                {
                    job_id = table.Column<Guid>(type: "uuid", nullable: false),
                    document = table.Column<string>(type: "text", nullable: false),
                    settings = table.Column<string>(type: "text", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_topic_projects", x => x.job_id);
                    table.ForeignKey(
                        name: "fk_topic_projects_jobs_job_id",
                        column: x => x.job_id,
                        principalTable: "jobs",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "topics",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    job_id = table.Column<Guid>(type: "uuid", nullable: false),
                    number = table.Column<int>(type: "integer", nullable: false),
                    guid = table.Column<string>(type: "text", nullable: false),
                    document = table.Column<string>(type: "text", nullable: false),
                    common = table.Column<string>(type: "text", nullable: true),
                    title = table.Column<string>(type: "text", nullable: false),
                    words = table.Column<string>(type: "text", nullable: false),
                    type = table.Column<string>(type: "text", nullable: false),
                    status = table.Column<string>(type: "text", nullable: false),
                    priority = table.Column<string>(type: "text", nullable: false),
                    labels = table.Column<string[]>(type: "text[]", nullable: false),
                    closed = table.Column<bool>(type: "boolean", nullable: false),
                    assigned = table.Column<string>(type: "text", nullable: false),
                    owed_by = table.Column<Guid>(type: "uuid", nullable: true),
                    handed_to = table.Column<Guid[]>(type: "uuid[]", nullable: false),
                    level = table.Column<int>(type: "integer", nullable: true),
                    due = table.Column<DateOnly>(type: "date", nullable: true),
                    author = table.Column<string>(type: "text", nullable: false),
                    created_at = table.Column<DateTime>(type: "timestamp with time zone", nullable: false),
                    modified_at = table.Column<DateTime>(type: "timestamp with time zone", nullable: false),
                    closed_at = table.Column<DateTime>(type: "timestamp with time zone", nullable: true),
                    comments = table.Column<int>(type: "integer", nullable: false),
                    last_by = table.Column<string>(type: "text", nullable: false),
                    elements = table.Column<string[]>(type: "text[]", nullable: false),
                    picture = table.Column<string>(type: "text", nullable: false),
                    place = table.Column<double[]>(type: "double precision[]", nullable: true),
                    frame_of = table.Column<Guid>(type: "uuid", nullable: true),
                    cause = table.Column<string>(type: "text", nullable: true),
                    cause_gone_at = table.Column<DateTime>(type: "timestamp with time zone", nullable: true),
                    version = table.Column<int>(type: "integer", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_topics", x => x.id);
                    table.ForeignKey(
                        name: "fk_topics_jobs_job_id",
                        column: x => x.job_id,
                        principalTable: "jobs",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "topic_events",
                columns: table => new
                {
                    id = table.Column<long>(type: "bigint", nullable: false)
                        .Annotation("Npgsql:ValueGenerationStrategy", NpgsqlValueGenerationStrategy.IdentityByDefaultColumn),
                    topic_id = table.Column<Guid>(type: "uuid", nullable: false),
                    at = table.Column<DateTime>(type: "timestamp with time zone", nullable: false),
                    by = table.Column<Guid>(type: "uuid", nullable: true),
                    author = table.Column<string>(type: "text", nullable: false),
                    comment = table.Column<string>(type: "text", nullable: true),
                    did = table.Column<string>(type: "text", nullable: false),
                    value = table.Column<string>(type: "text", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_topic_events", x => x.id);
                    table.ForeignKey(
                        name: "fk_topic_events_topics_topic_id",
                        column: x => x.topic_id,
                        principalTable: "topics",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "topic_parts",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    job_id = table.Column<Guid>(type: "uuid", nullable: false),
                    topic_id = table.Column<Guid>(type: "uuid", nullable: true),
                    name = table.Column<string>(type: "text", nullable: false),
                    length = table.Column<long>(type: "bigint", nullable: false),
                    sha256 = table.Column<string>(type: "text", nullable: false),
                    blob_id = table.Column<Guid>(type: "uuid", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_topic_parts", x => x.id);
                    table.ForeignKey(
                        name: "fk_topic_parts_jobs_job_id",
                        column: x => x.job_id,
                        principalTable: "jobs",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                    table.ForeignKey(
                        name: "fk_topic_parts_topics_topic_id",
                        column: x => x.topic_id,
                        principalTable: "topics",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateIndex(
                name: "ix_topic_events_topic_id_id",
                table: "topic_events",
                columns: new[] { "topic_id", "id" });

            migrationBuilder.CreateIndex(
                name: "ix_topic_imports_job_id",
                table: "topic_imports",
                column: "job_id");

            migrationBuilder.CreateIndex(
                name: "ix_topic_parts_job_id_topic_id_name",
                table: "topic_parts",
                columns: new[] { "job_id", "topic_id", "name" });

            migrationBuilder.CreateIndex(
                name: "ix_topic_parts_topic_id",
                table: "topic_parts",
                column: "topic_id");

            migrationBuilder.CreateIndex(
                name: "ix_topics_elements",
                table: "topics",
                column: "elements")
                .Annotation("Npgsql:IndexMethod", "gin");

            migrationBuilder.CreateIndex(
                name: "ix_topics_job_id_cause",
                table: "topics",
                columns: new[] { "job_id", "cause" },
                unique: true,
                filter: "cause IS NOT NULL AND NOT closed");

            migrationBuilder.CreateIndex(
                name: "ix_topics_job_id_closed_owed_by",
                table: "topics",
                columns: new[] { "job_id", "closed", "owed_by" });

            migrationBuilder.CreateIndex(
                name: "ix_topics_job_id_guid",
                table: "topics",
                columns: new[] { "job_id", "guid" },
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_topics_job_id_number",
                table: "topics",
                columns: new[] { "job_id", "number" },
                unique: true);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<DateTime>(
                name: "asked_at",
                table: "amendments",
                type: "timestamp with time zone",
                nullable: true);

            migrationBuilder.DropTable(
                name: "topic_events");

            migrationBuilder.DropTable(
                name: "topic_imports");

            migrationBuilder.DropTable(
                name: "topic_parts");

            migrationBuilder.DropTable(
                name: "topic_projects");

            migrationBuilder.DropTable(
                name: "topics");
        }
    }
}
