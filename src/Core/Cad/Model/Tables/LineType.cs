using System.Text;
using SteadyLintel.Geometry;

namespace SteadyLintel.Cad;

/// <summary>A line type.</summary>
public sealed class LineType : SymbolRecord
{
    /// <inheritdoc/>
    public override string Type => "LTYPE";

    /// <inheritdoc/>
    internal override SymbolKind Table => SymbolKind.LineType;

    /// <summary>What it looks like, in words or signs (3).</summary>
    public string Description { get; set; } = "";

    /// <summary>Dashes, gaps and dots in order.</summary>
    public List<Dash> Dashes { get; } = [];

    /// <summary>The length of the pattern (40).</summary>
    public double Length { get; set; }

    /// <inheritdoc/>
    internal override void Exchange(Fields f)
    {
        Start(f, "AcDbLinetypeTableRecord", 0);
        Description = f.Text(3, Description);
        if (f.Dwg is { } d)
        {
            ExchangeDwg(d);
            return;
        }

        f.Fixed(72, 65L);
        int count = f.Short(73, Dashes.Count);
        Length = f.Double(40, Length);
        f.Items(Dashes, count, 49, dash =>
        {
            double length = f.Double(49, dash.Length);
            int flags = f.Short(74, dash.Flags);
            if ((flags & 6) == 0)
                return new Dash(length, flags);
            return new Dash(
                length,
                flags,
                f.Short(75, dash.Shape),
                f.Reference(340, dash.Style),
                f.Double(46, f.Reading ? 1 : dash.Scale),
                f.Angle(50, dash.Rotation),
                new Vec2(f.Double(44, dash.Offset.X), f.Double(45, dash.Offset.Y)),
                (flags & 2) != 0 ? f.Text(9, dash.Text ?? "") : null
            );
        });
    }

    private void ExchangeDwg(DwgFields d)
    {
        Length = d.Double(Length);
        d.RawByte('A');
        int count = d.RawByte(Dashes.Count);
        byte[] area = new byte[d.Since(CadVersion.AC1021) ? 512 : 256];
        int used = 1;
        d.Items(Dashes, count, 0, dash =>
        {
            int at = dash.Text is { } text && !d.Reading ? Put(area, ref used, text) : dash.Shape;
            double length = d.Double(dash.Length);
            int shape = d.Short(at);
            return new Dash(
                length,
                0,
                shape,
                default,
                1,
                0,
                new Vec2(d.RawDouble(dash.Offset.X), d.RawDouble(dash.Offset.Y))
            ) with
            {
                Scale = d.Double(dash.Scale == 0 ? 1 : dash.Scale),
                Rotation = d.Double(dash.Rotation),
                Flags = d.Short(dash.Flags),
                Style = d.Handle(dash.Style, HandleKind.HardPointer),
                Text = dash.Text,
            };
        });
        bool anyText = Dashes.Any(x => (x.Flags & 2) != 0);
        if (d.Since(CadVersion.AC1021) && !anyText)
            return;
        area = d.Bytes(area, area.Length);
        if (!d.Reading)
            return;
        for (int i = 0; i < Dashes.Count; i++)
            if ((Dashes[i].Flags & 2) != 0)
                Dashes[i] = Dashes[i] with { Text = Get(area, Dashes[i].Shape), Shape = 0 };

        int Put(byte[] target, ref int next, string text)
        {
            int start = next;
            byte[] bytes = d.Since(CadVersion.AC1021)
                ? Encoding.Unicode.GetBytes(text + "\0")
                : Encoding.Latin1.GetBytes(text + "\0");
            if (next + bytes.Length > target.Length)
                return 0;
            bytes.CopyTo(target, next);
            next += bytes.Length;
            return start;
        }

        string Get(byte[] source, int start)
        {
            if ((uint)start >= source.Length)
                return "";
            string text = (d.Since(CadVersion.AC1021) ? Encoding.Unicode : Encoding.Latin1).GetString(
                source.AsSpan(start)
            );
            int end = text.IndexOf('\0', StringComparison.Ordinal);
            return end < 0 ? text : text[..end];
        }
    }
}
