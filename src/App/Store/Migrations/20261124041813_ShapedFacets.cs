using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace SteadyLintel.Store.Migrations
{
    /// <inheritdoc />
    [DbContext(typeof(LintelDb))]
    [Migration("20261124041813_ShapedFacets")]
    public partial class ShapedFacets : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropPrimaryKey(
                name: "pk_facets",
                table: "facets");

            migrationBuilder.AddColumn<bool>(
                name: "shaped",
                table: "facets",
                type: "boolean",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddPrimaryKey(
                name: "pk_facets",
                table: "facets",
                columns: new[] { "delivery_id", "storey", "class", "layer", "shaped" });

            // What was taken in before is counted again from its elements.
            migrationBuilder.Sql("DELETE FROM facets");
            migrationBuilder.Sql("INSERT INTO facets (delivery_id, storey, class, layer, shaped, count) SELECT delivery_id, storey, class, layer, box IS NOT NULL, count(*) FROM elements GROUP BY 1, 2, 3, 4, 5");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.Sql("DELETE FROM facets");
            migrationBuilder.DropPrimaryKey(
                name: "pk_facets",
                table: "facets");

            migrationBuilder.DropColumn(
                name: "shaped",
                table: "facets");

            migrationBuilder.AddPrimaryKey(
                name: "pk_facets",
                table: "facets",
                columns: new[] { "delivery_id", "storey", "class", "layer" });
            migrationBuilder.Sql("INSERT INTO facets (delivery_id, storey, class, layer, count) SELECT delivery_id, storey, class, layer, count(*) FROM elements GROUP BY 1, 2, 3, 4");
        }
    }
}
