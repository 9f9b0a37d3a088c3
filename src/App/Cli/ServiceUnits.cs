namespace SteadyLintel.Cli;

/// <summary>Files that make the program services of a Linux machine: units for systemd, settings, a proxy's configuration.</summary>
internal static class ServiceUnits
{
    /// <summary>Where the settings lie, secrets among them: readable by the service's user alone.</summary>
    private const string Settings = "/etc/steady-lintel.env";

    /// <summary>The files by name.</summary>
    /// <param name="folder">Where the published program is.</param>
    /// <param name="user">The user that it runs as.</param>
    /// <param name="host">The name that the site is asked by.</param>
    /// <param name="dotnet">The runtime.</param>
    public static IReadOnlyDictionary<string, string> Write(string folder, string user, string host, string dotnet) =>
        new Dictionary<string, string>
        {
            ["steady-lintel-web.service"] = Unit(
                "pages",
                folder,
                user,
                dotnet,
                "",
                "Environment=Work__Here=false ASPNETCORE_URLS=http://127.0.0.1:5080"
            ),
            ["steady-lintel-work.service"] = Unit(
                "work",
                folder,
                user,
                dotnet,
                " work",
                "# Pictures and conversions of strangers' files: when memory is short, these go first.\nOOMScoreAdjust=500"
            ),
            ["steady-lintel.env"] = $"""
                # {Settings}: owner {user}, mode 600
                ConnectionStrings__Lintel=Host=127.0.0.1;Database=lintel;Username=lintel;Password=CHANGE
                AllowedHosts={host}
                Site__Address=https://{host}
                Site__Proxies__0=127.0.0.1
                Mail__Host=CHANGE
                Mail__From=lintel@{host}
                # Keys__Certificate=/etc/steady-lintel.pfx
                # Originals__Folder=/srv/steady-lintel

                """,
            ["nginx-steady-lintel.conf"] = $$"""
                server {
                    listen 443 ssl;
                    server_name {{host}};
                    ssl_certificate /etc/ssl/{{host}}.pem;
                    ssl_certificate_key /etc/ssl/{{host}}.key;
                    # A piece of an upload is 4 MB.
                    client_max_body_size 8m;
                    location / {
                        proxy_pass http://127.0.0.1:5080;
                        proxy_set_header Host $host;
                        proxy_set_header X-Forwarded-For $remote_addr;
                        proxy_set_header X-Forwarded-Proto https;
                        proxy_read_timeout 300s;
                    }
                }
                server {
                    listen 80;
                    server_name {{host}};
                    return 301 https://$host$request_uri;
                }

                """,
        };

    private static string Unit(string what, string folder, string user, string dotnet, string word, string more) =>
        $"""
            [Unit]
            Description=Steady Lintel, {what}
            After=network-online.target postgresql.service
            Wants=network-online.target

            [Service]
            User={user}
            WorkingDirectory={folder}
            EnvironmentFile={Settings}
            {more}
            ExecStart={dotnet} {folder}/SteadyLintel.Web.dll{word}
            Restart=always
            RestartSec=2
            KillSignal=SIGTERM
            TimeoutStopSec=30
            NoNewPrivileges=true
            PrivateTmp=true
            ProtectSystem=strict
            ProtectHome=true
            ReadWritePaths=-/srv/steady-lintel
            RestrictAddressFamilies=AF_INET AF_INET6 AF_UNIX
            LockPersonality=true

            [Install]
            WantedBy=multi-user.target

            """;
}
