using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace SteadyLintel.Store.Migrations
{
    /// <inheritdoc />
    [DbContext(typeof(LintelDb))]
    [Migration("20261128170434_BulkElements")]
    public partial class BulkElements : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropForeignKey(
                name: "fk_elements_revisions_revision_id",
                table: "elements");
            migrationBuilder.Sql("""
                CREATE FUNCTION delete_elements() RETURNS trigger LANGUAGE plpgsql AS
                $$BEGIN DELETE FROM elements WHERE revision_id = OLD.id; RETURN OLD; END$$;
                CREATE TRIGGER delete_elements AFTER DELETE ON revisions FOR EACH ROW EXECUTE FUNCTION delete_elements();
                """);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.Sql("DROP TRIGGER delete_elements ON revisions; DROP FUNCTION delete_elements();");
            migrationBuilder.AddForeignKey(
                name: "fk_elements_revisions_revision_id",
                table: "elements",
                column: "revision_id",
                principalTable: "revisions",
                principalColumn: "id",
                onDelete: ReferentialAction.Cascade);
        }
    }
}
