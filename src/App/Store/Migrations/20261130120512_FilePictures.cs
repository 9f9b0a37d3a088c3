using System;
using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace SteadyLintel.Store.Migrations
{
    /// <inheritdoc />
    [DbContext(typeof(LintelDb))]
    [Migration("20261130120512_FilePictures")]
    public partial class FilePictures : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.CreateTable(
                name: "file_pictures",
                columns: table => new
                {
                    transmittal_id = table.Column<Guid>(type: "uuid", nullable: false),
                    name = table.Column<string>(type: "text", nullable: false),
                    bytes = table.Column<byte[]>(type: "bytea", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_file_pictures", x => new { x.transmittal_id, x.name });
                    table.ForeignKey(
                        name: "fk_file_pictures_transmittal_files_transmittal_id_name",
                        columns: x => new { x.transmittal_id, x.name },
                        principalTable: "transmittal_files",
                        principalColumns: new[] { "transmittal_id", "name" },
                        onDelete: ReferentialAction.Cascade);
                });
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "file_pictures");
        }
    }
}
