using System;
using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace SteadyLintel.Store.Migrations
{
    /// <inheritdoc />
    [DbContext(typeof(LintelDb))]
    [Migration("20261130191215_Amendments")]
    public partial class Amendments : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<DateTime>(
                name: "amended_at",
                table: "sources",
                type: "timestamp with time zone",
                nullable: true);

            migrationBuilder.AddColumn<int>(
                name: "amendments",
                table: "sources",
                type: "integer",
                nullable: false,
                defaultValue: 0);

            migrationBuilder.AddColumn<string>(
                name: "protection",
                table: "sources",
                type: "jsonb",
                nullable: true);

            migrationBuilder.AddColumn<int>(
                name: "amendments",
                table: "revisions",
                type: "integer",
                nullable: false,
                defaultValue: 0);

            migrationBuilder.AddColumn<bool>(
                name: "left_out",
                table: "elements",
                type: "boolean",
                nullable: false,
                defaultValue: false);

            migrationBuilder.CreateTable(
                name: "amendments",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    source_id = table.Column<Guid>(type: "uuid", nullable: false),
                    element = table.Column<string>(type: "text", nullable: false),
                    subject = table.Column<string>(type: "text", nullable: false),
                    spec = table.Column<string>(type: "jsonb", nullable: false),
                    step = table.Column<int>(type: "integer", nullable: false),
                    file = table.Column<string>(type: "jsonb", nullable: true),
                    sentence = table.Column<string>(type: "text", nullable: false),
                    made_by = table.Column<Guid>(type: "uuid", nullable: false),
                    made_at = table.Column<DateTime>(type: "timestamp with time zone", nullable: false),
                    batch = table.Column<Guid>(type: "uuid", nullable: false),
                    ended_by = table.Column<Guid>(type: "uuid", nullable: true),
                    ended_at = table.Column<DateTime>(type: "timestamp with time zone", nullable: true),
                    asked_at = table.Column<DateTime>(type: "timestamp with time zone", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_amendments", x => x.id);
                    table.ForeignKey(
                        name: "fk_amendments_sources_source_id",
                        column: x => x.source_id,
                        principalTable: "sources",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateIndex(
                name: "ix_amendments_source_id_element",
                table: "amendments",
                columns: new[] { "source_id", "element" });

            migrationBuilder.CreateIndex(
                name: "ix_amendments_source_id_subject",
                table: "amendments",
                columns: new[] { "source_id", "subject" },
                unique: true,
                filter: "step BETWEEN 1 AND 4");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "amendments");

            migrationBuilder.DropColumn(
                name: "amended_at",
                table: "sources");

            migrationBuilder.DropColumn(
                name: "amendments",
                table: "sources");

            migrationBuilder.DropColumn(
                name: "protection",
                table: "sources");

            migrationBuilder.DropColumn(
                name: "amendments",
                table: "revisions");

            migrationBuilder.DropColumn(
                name: "left_out",
                table: "elements");
        }
    }
}
