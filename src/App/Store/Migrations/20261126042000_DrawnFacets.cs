using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace SteadyLintel.Store.Migrations
{
    /// <inheritdoc />
    [DbContext(typeof(LintelDb))]
    [Migration("20261126042000_DrawnFacets")]
    public partial class DrawnFacets : Migration
    {
        private static readonly string[] Before = ["delivery_id", "storey", "class", "layer", "shaped"];

        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropPrimaryKey(name: "pk_facets", table: "facets");
            // What was taken in before counts as not drawn until it is taken in again.
            migrationBuilder.AddColumn<bool>(name: "drawn", table: "facets", type: "boolean", nullable: false, defaultValue: false);
            migrationBuilder.AddPrimaryKey(name: "pk_facets", table: "facets", columns: [.. Before, "drawn"]);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropPrimaryKey(name: "pk_facets", table: "facets");
            migrationBuilder.Sql("CREATE TEMP TABLE kept ON COMMIT DROP AS SELECT delivery_id, storey, class, layer, shaped, sum(count)::integer AS count FROM facets GROUP BY 1, 2, 3, 4, 5");
            migrationBuilder.Sql("DELETE FROM facets");
            migrationBuilder.DropColumn(name: "drawn", table: "facets");
            migrationBuilder.Sql("INSERT INTO facets (delivery_id, storey, class, layer, shaped, count) SELECT * FROM kept");
            migrationBuilder.AddPrimaryKey(name: "pk_facets", table: "facets", columns: Before);
        }
    }
}
