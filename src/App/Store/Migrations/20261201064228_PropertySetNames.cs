using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace SteadyLintel.Store.Migrations
{
    /// <inheritdoc />
    [DbContext(typeof(LintelDb))]
    [Migration("20261201064228_PropertySetNames")]
    public partial class PropertySetNames : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            // Rules name sets without regard to case; a revision may have a set of its own for each element.
            migrationBuilder.Sql("CREATE INDEX ix_property_sets_revision_id_lower_name ON property_sets (revision_id, lower(name))");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.Sql("DROP INDEX ix_property_sets_revision_id_lower_name");
        }
    }
}
