using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace SteadyLintel.Store.Migrations
{
    /// <inheritdoc />
    [DbContext(typeof(LintelDb))]
    [Migration("20261124025721_DrawingReports")]
    public partial class DrawingReports : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<string>(
                name: "drawing",
                table: "deliveries",
                type: "text",
                nullable: true);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropColumn(
                name: "drawing",
                table: "deliveries");
        }
    }
}
