using System;
using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace SteadyLintel.Store.Migrations
{
    /// <inheritdoc />
    [DbContext(typeof(LintelDb))]
    [Migration("20261128074716_StoredSelection")]
    public partial class StoredSelection : Migration
    {
        // The words of a sentence become the document that page, terminal and transmittals share.
        private const string Documents = """
            UPDATE TABLE SET spec = jsonb_strip_nulls(jsonb_build_object(
              'version', 1, 'to', coalesce(spec->>'to', ''), 'sources', coalesce(spec->'sources', '[]'),
              'rules', (CASE WHEN jsonb_array_length(coalesce(spec->'storeys', '[]')) > 0 THEN jsonb_build_array(jsonb_build_object('do', 'only', 'what', 'storey', 'are', spec->'storeys')) ELSE '[]' END)
                || (CASE WHEN jsonb_array_length(coalesce(spec->'classes', '[]')) > 0 THEN jsonb_build_array(jsonb_build_object('do', 'only', 'what', 'class', 'are', spec->'classes')) ELSE '[]' END)
                || (CASE WHEN jsonb_array_length(coalesce(spec->'layers', '[]')) > 0 THEN jsonb_build_array(jsonb_build_object('do', 'only', 'what', 'layer', 'are', spec->'layers')) ELSE '[]' END),
              'into', CASE WHEN coalesce(spec->>'form', 'ifc') = 'ifc' THEN jsonb_build_object('file', 'ifc') ELSE jsonb_build_object(
                'file', split_part(spec->>'form', '-', 1), 'as', split_part(spec->>'form', '-', 2),
                'version', CASE split_part(spec->>'form', '-', 3) WHEN '2000' THEN 'AC1015' WHEN '2004' THEN 'AC1018' WHEN '2010' THEN 'AC1024' WHEN '2013' THEN 'AC1027' WHEN '2018' THEN 'AC1032'
                  ELSE CASE WHEN split_part(spec->>'form', '-', 2) = 'solids' THEN 'AC1024' ELSE 'AC1027' END END) END,
              'unit', nullif(spec->>'unit', ''), 'frame', 'source', 'split', CASE WHEN (spec->>'byStorey')::boolean THEN 'storey' ELSE 'none' END,
              'changes', '[]'::jsonb, 'name', coalesce(nullif(spec->>'name', ''), '{party}-{storey}')))
            WHERE NOT spec ? 'version'
            """;

        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<string>(
                name: "setting_out",
                table: "sources",
                type: "jsonb",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "levels",
                table: "jobs",
                type: "jsonb",
                nullable: true);

            migrationBuilder.AddColumn<string[]>(
                name: "layers",
                table: "elements",
                type: "text[]",
                nullable: false,
                defaultValue: new string[0]);

            migrationBuilder.AddColumn<string[]>(
                name: "materials",
                table: "elements",
                type: "text[]",
                nullable: false,
                defaultValue: new string[0]);

            migrationBuilder.AddColumn<int[]>(
                name: "sets",
                table: "elements",
                type: "integer[]",
                nullable: false,
                defaultValue: new int[0]);

            migrationBuilder.AddColumn<string>(
                name: "type_name",
                table: "elements",
                type: "text",
                nullable: false,
                defaultValue: "");

            migrationBuilder.CreateTable(
                name: "property_sets",
                columns: table => new
                {
                    delivery_id = table.Column<Guid>(type: "uuid", nullable: false),
                    number = table.Column<int>(type: "integer", nullable: false),
                    name = table.Column<string>(type: "text", nullable: false),
                    values = table.Column<string>(type: "jsonb", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_property_sets", x => new { x.delivery_id, x.number });
                    table.ForeignKey(
                        name: "fk_property_sets_deliveries_delivery_id",
                        column: x => x.delivery_id,
                        principalTable: "deliveries",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateIndex(
                name: "ix_property_sets_delivery_id_name",
                table: "property_sets",
                columns: new[] { "delivery_id", "name" });

            // What was taken in before has its layers; its types, materials and properties come when it is taken in again.
            migrationBuilder.Sql("UPDATE elements SET layers = string_to_array(layer, E'\\n') WHERE layer <> ''");
            foreach (string table in (string[])["orders", "transmittals"]) migrationBuilder.Sql(Documents.Replace("TABLE", table));
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "property_sets");

            migrationBuilder.DropColumn(
                name: "setting_out",
                table: "sources");

            migrationBuilder.DropColumn(
                name: "levels",
                table: "jobs");

            migrationBuilder.DropColumn(
                name: "layers",
                table: "elements");

            migrationBuilder.DropColumn(
                name: "materials",
                table: "elements");

            migrationBuilder.DropColumn(
                name: "sets",
                table: "elements");

            migrationBuilder.DropColumn(
                name: "type_name",
                table: "elements");
        }
    }
}
