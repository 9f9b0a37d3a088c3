using System;
using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace SteadyLintel.Store.Migrations
{
    /// <inheritdoc />
    [DbContext(typeof(LintelDb))]
    [Migration("20261128181506_SettingOuts")]
    public partial class SettingOuts : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            // The column setting_out of sources, never filled, stays: processes of the version before still read it.
            migrationBuilder.AddColumn<string>(
                name: "frame",
                table: "revisions",
                type: "jsonb",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "global_id",
                table: "levels",
                type: "text",
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<double[]>(
                name: "place",
                table: "elements",
                type: "double precision[]",
                nullable: true);

            migrationBuilder.AddColumn<double[]>(
                name: "shape",
                table: "elements",
                type: "double precision[]",
                nullable: true);

            migrationBuilder.CreateTable(
                name: "setting_outs",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    source_id = table.Column<Guid>(type: "uuid", nullable: false),
                    from_revision = table.Column<int>(type: "integer", nullable: false),
                    document = table.Column<string>(type: "jsonb", nullable: false),
                    accepted_at = table.Column<DateTime>(type: "timestamp with time zone", nullable: false),
                    accepted_by = table.Column<Guid>(type: "uuid", nullable: false),
                    taken_back_at = table.Column<DateTime>(type: "timestamp with time zone", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_setting_outs", x => x.id);
                    table.ForeignKey(
                        name: "fk_setting_outs_sources_source_id",
                        column: x => x.source_id,
                        principalTable: "sources",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateIndex(
                name: "ix_setting_outs_source_id",
                table: "setting_outs",
                column: "source_id");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "setting_outs");

            migrationBuilder.DropColumn(
                name: "frame",
                table: "revisions");

            migrationBuilder.DropColumn(
                name: "global_id",
                table: "levels");

            migrationBuilder.DropColumn(
                name: "place",
                table: "elements");

            migrationBuilder.DropColumn(
                name: "shape",
                table: "elements");

        }
    }
}
