using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace SteadyLintel.Store.Migrations
{
    /// <inheritdoc />
    [DbContext(typeof(LintelDb))]
    [Migration("20261201044740_DrawingPreparations")]
    public partial class DrawingPreparations : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<string>(
                name: "preparation",
                table: "setting_outs",
                type: "jsonb",
                nullable: true);
            // The steps of a drawing were a member of its setting-out; they are a document beside it now.
            migrationBuilder.Sql(
                """
                UPDATE setting_outs SET
                    preparation = CASE WHEN jsonb_typeof(document->'steps') = 'array' AND document->'steps' <> '[]'
                        THEN jsonb_build_object('version', 1, 'steps', document->'steps') END,
                    document = document - 'steps'
                WHERE document ? 'steps'
                """);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.Sql(
                """
                UPDATE setting_outs SET document = jsonb_set(document, '{steps}', preparation->'steps')
                WHERE preparation IS NOT NULL
                """);
            migrationBuilder.DropColumn(
                name: "preparation",
                table: "setting_outs");
        }
    }
}
