using System;
using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace SteadyLintel.Store.Migrations
{
    /// <inheritdoc />
    [DbContext(typeof(LintelDb))]
    [Migration("20261129071416_Handover")]
    public partial class Handover : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<string>(
                name: "basis",
                table: "transmittals",
                type: "jsonb",
                nullable: true);

            migrationBuilder.AddColumn<DateTime>(
                name: "signed_at",
                table: "transmittals",
                type: "timestamp with time zone",
                nullable: true);

            migrationBuilder.AddColumn<Guid>(
                name: "signed_by",
                table: "transmittals",
                type: "uuid",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "signed_why",
                table: "transmittals",
                type: "text",
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<int>(
                name: "same_as",
                table: "transmittal_files",
                type: "integer",
                nullable: true);

            migrationBuilder.AddColumn<DateTime>(
                name: "locked_at",
                table: "sources",
                type: "timestamp with time zone",
                nullable: true);

            migrationBuilder.AddColumn<Guid>(
                name: "locked_by",
                table: "sources",
                type: "uuid",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "locked_why",
                table: "sources",
                type: "text",
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<double>(
                name: "bearing",
                table: "elements",
                type: "double precision",
                nullable: true);

            migrationBuilder.AddColumn<string[]>(
                name: "classifications",
                table: "elements",
                type: "text[]",
                nullable: false,
                defaultValue: new string[0]);

            migrationBuilder.AddColumn<string[]>(
                name: "groups",
                table: "elements",
                type: "text[]",
                nullable: false,
                defaultValue: new string[0]);

            migrationBuilder.AddColumn<string>(
                name: "predefined",
                table: "elements",
                type: "text",
                nullable: false,
                defaultValue: "");

            migrationBuilder.CreateTable(
                name: "receipts",
                columns: table => new
                {
                    transmittal_id = table.Column<Guid>(type: "uuid", nullable: false),
                    name = table.Column<string>(type: "text", nullable: false),
                    user_id = table.Column<Guid>(type: "uuid", nullable: false),
                    at = table.Column<DateTime>(type: "timestamp with time zone", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_receipts", x => new { x.transmittal_id, x.name, x.user_id });
                    table.ForeignKey(
                        name: "fk_receipts_transmittals_transmittal_id",
                        column: x => x.transmittal_id,
                        principalTable: "transmittals",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "receipts");

            migrationBuilder.DropColumn(
                name: "basis",
                table: "transmittals");

            migrationBuilder.DropColumn(
                name: "signed_at",
                table: "transmittals");

            migrationBuilder.DropColumn(
                name: "signed_by",
                table: "transmittals");

            migrationBuilder.DropColumn(
                name: "signed_why",
                table: "transmittals");

            migrationBuilder.DropColumn(
                name: "same_as",
                table: "transmittal_files");

            migrationBuilder.DropColumn(
                name: "locked_at",
                table: "sources");

            migrationBuilder.DropColumn(
                name: "locked_by",
                table: "sources");

            migrationBuilder.DropColumn(
                name: "locked_why",
                table: "sources");

            migrationBuilder.DropColumn(
                name: "bearing",
                table: "elements");

            migrationBuilder.DropColumn(
                name: "classifications",
                table: "elements");

            migrationBuilder.DropColumn(
                name: "groups",
                table: "elements");

            migrationBuilder.DropColumn(
                name: "predefined",
                table: "elements");
        }
    }
}
