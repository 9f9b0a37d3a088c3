using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace SteadyLintel.Store.Migrations
{
    /// <inheritdoc />
    [DbContext(typeof(LintelDb))]
    [Migration("20261128204052_Members")]
    public partial class Members : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<string>(
                name: "member",
                table: "elements",
                type: "text",
                nullable: true);

            migrationBuilder.CreateIndex(
                name: "ix_elements_revision_id_storey",
                table: "elements",
                columns: new[] { "revision_id", "storey" },
                filter: "member IS NOT NULL");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropIndex(
                name: "ix_elements_revision_id_storey",
                table: "elements");

            migrationBuilder.DropColumn(
                name: "member",
                table: "elements");
        }
    }
}
