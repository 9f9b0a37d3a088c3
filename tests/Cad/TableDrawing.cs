using SteadyLintel.Cad;
using SteadyLintel.Geometry;

namespace SteadyLintel.Tests;

/// <summary>A drawing with a table, which the writer of DWG does not write: its bits are made here.</summary>
internal static class TableDrawing
{
    /// <summary>A drawing with a table of every kind of cell, kept as bits.</summary>
    public static (Drawing Drawing, Table Table) Doors(CadVersion version)
    {
        var drawing = Drawing.Create(version);
        drawing.Classes.Add(
            new CadClass
            {
                Number = 500,
                DxfName = Table.Kind,
                ClassName = "AcDbTable",
                IsEntity = true,
            }
        );
        var picture = drawing.AddBlock("*T1");
        drawing.Add(new Line { End = new(30, 0, 0) }, picture);
        var mark = drawing.AddBlock("MARK");
        drawing.Add(new Circle { Radius = 2 }, mark);
        var definition = new AttributeDefinition { Tag = "NO", Value = "0" };
        drawing.Add(definition, mark);
        var style = new TextStyle
        {
            Name = "BOLD",
            Handle = drawing.NextHandle(),
            Owner = drawing.Styles.Handle,
        };
        drawing.Styles.Add(style);
        var table = new Table
        {
            Handle = drawing.NextHandle(),
            Layer = drawing.AddLayer("A-DOOR-SCHD").Handle,
            Block = picture.Handle,
            Location = new(5, 6, 0),
            Direction = Vec3.AxisY,
        };
        table.Grid.Heights.AddRange([9, 8, 7]);
        table.Grid.Widths.AddRange([50, 60]);
        table.Grid.Cells.AddRange([
            new TableCell { Text = "Door schedule", Span = (2, 1) },
            new TableCell { IsCovered = true },
            new TableCell
            {
                Text = "D-01",
                Own = TableCell.OwnAlignment | TableCell.OwnHeight | TableCell.OwnColour | TableCell.OwnStyle,
                Alignment = 7,
                Height = 3.5,
                Colour = new(3),
                Style = style.Handle,
            },
            new TableCell { Kind = TableCell.OfBlock, Block = mark.Handle },
            new TableCell
            {
                Text = "Überlänge\\P900",
                Own = TableCell.OwnAlignment,
                Alignment = 2,
            },
            new TableCell(),
        ]);
        table.Grid.Cells[3].Attributes.Add((definition.Handle, "01"));
        drawing.Add(
            new OpaqueEntity(Table.Kind)
            {
                Handle = table.Handle,
                Layer = table.Layer,
                Bits = EntityBits.Of(drawing, table, version),
            }
        );
        drawing.Add(new Line { Start = new(1, 2, 3) });
        return (drawing, table);
    }
}
