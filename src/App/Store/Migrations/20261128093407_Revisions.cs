using System;
using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace SteadyLintel.Store.Migrations
{
    /// <inheritdoc />
    [DbContext(typeof(LintelDb))]
    [Migration("20261128093407_Revisions")]
    public partial class Revisions : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.CreateTable(
                name: "revisions",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    source_id = table.Column<Guid>(type: "uuid", nullable: false),
                    number = table.Column<int>(type: "integer", nullable: false),
                    kind = table.Column<int>(type: "integer", nullable: false),
                    report = table.Column<string>(type: "jsonb", nullable: false),
                    elements = table.Column<int>(type: "integer", nullable: false),
                    findings = table.Column<int>(type: "integer", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_revisions", x => x.id);
                    table.ForeignKey(
                        name: "fk_revisions_deliveries_id",
                        column: x => x.id,
                        principalTable: "deliveries",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                    table.ForeignKey(
                        name: "fk_revisions_sources_source_id",
                        column: x => x.source_id,
                        principalTable: "sources",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.Sql("""
                INSERT INTO revisions (id, source_id, number, kind, report, elements, findings)
                SELECT id, source_id, revision, CASE WHEN drawing IS NULL THEN 0 ELSE 1 END, coalesce(drawing::jsonb, report), elements, findings
                FROM deliveries WHERE revision IS NOT NULL AND (drawing IS NOT NULL OR report IS NOT NULL)
                """);

            migrationBuilder.DropForeignKey(
                name: "fk_chunks_deliveries_delivery_id",
                table: "chunks");

            migrationBuilder.DropForeignKey(
                name: "fk_elements_deliveries_delivery_id",
                table: "elements");

            migrationBuilder.DropForeignKey(
                name: "fk_facets_deliveries_delivery_id",
                table: "facets");

            migrationBuilder.DropForeignKey(
                name: "fk_levels_deliveries_delivery_id",
                table: "levels");

            migrationBuilder.DropForeignKey(
                name: "fk_property_sets_deliveries_delivery_id",
                table: "property_sets");

            migrationBuilder.DropIndex(
                name: "ix_deliveries_source_id_revision",
                table: "deliveries");

            migrationBuilder.DropColumn(
                name: "drawing",
                table: "deliveries");

            migrationBuilder.DropColumn(
                name: "elements",
                table: "deliveries");

            migrationBuilder.DropColumn(
                name: "findings",
                table: "deliveries");

            migrationBuilder.DropColumn(
                name: "report",
                table: "deliveries");

            migrationBuilder.DropColumn(
                name: "revision",
                table: "deliveries");

            migrationBuilder.RenameColumn(
                name: "deliveries",
                table: "transmittals",
                newName: "revisions");

            migrationBuilder.RenameColumn(
                name: "delivery_id",
                table: "property_sets",
                newName: "revision_id");

            migrationBuilder.RenameIndex(
                name: "ix_property_sets_delivery_id_name",
                table: "property_sets",
                newName: "ix_property_sets_revision_id_name");

            migrationBuilder.RenameColumn(
                name: "delivery_id",
                table: "levels",
                newName: "revision_id");

            migrationBuilder.RenameColumn(
                name: "delivery_id",
                table: "facets",
                newName: "revision_id");

            migrationBuilder.RenameColumn(
                name: "delivery_id",
                table: "elements",
                newName: "revision_id");

            migrationBuilder.RenameIndex(
                name: "ix_elements_delivery_id_global_id",
                table: "elements",
                newName: "ix_elements_revision_id_global_id");

            migrationBuilder.RenameColumn(
                name: "delivery_id",
                table: "chunks",
                newName: "revision_id");

            migrationBuilder.CreateIndex(
                name: "ix_deliveries_source_id",
                table: "deliveries",
                column: "source_id");

            migrationBuilder.CreateIndex(
                name: "ix_revisions_source_id_number",
                table: "revisions",
                columns: new[] { "source_id", "number" },
                unique: true);

            migrationBuilder.AddForeignKey(
                name: "fk_chunks_revisions_revision_id",
                table: "chunks",
                column: "revision_id",
                principalTable: "revisions",
                principalColumn: "id",
                onDelete: ReferentialAction.Cascade);

            migrationBuilder.AddForeignKey(
                name: "fk_elements_revisions_revision_id",
                table: "elements",
                column: "revision_id",
                principalTable: "revisions",
                principalColumn: "id",
                onDelete: ReferentialAction.Cascade);

            migrationBuilder.AddForeignKey(
                name: "fk_facets_revisions_revision_id",
                table: "facets",
                column: "revision_id",
                principalTable: "revisions",
                principalColumn: "id",
                onDelete: ReferentialAction.Cascade);

            migrationBuilder.AddForeignKey(
                name: "fk_levels_revisions_revision_id",
                table: "levels",
                column: "revision_id",
                principalTable: "revisions",
                principalColumn: "id",
                onDelete: ReferentialAction.Cascade);

            migrationBuilder.AddForeignKey(
                name: "fk_property_sets_revisions_revision_id",
                table: "property_sets",
                column: "revision_id",
                principalTable: "revisions",
                principalColumn: "id",
                onDelete: ReferentialAction.Cascade);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder) =>
            throw new NotSupportedException("Revisions cannot be put back into deliveries; restore a backup made before the upgrade.");
    }
}
