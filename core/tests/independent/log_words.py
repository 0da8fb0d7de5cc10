"""What people write in logs, in five languages: parts, quantities, units, clocks, months; shared with no reader."""

#: names of parts and quantities by language: the words people use, in the order "part" or "quantity of part"
PARTS = {
    "en": {
        "processor": ["CPU", "CPU Package", "Processor", "CPU die"],
        "graphics": ["GPU", "GPU Core", "Graphics card", "VGA"],
        "memory": ["DIMM 1", "RAM", "Memory module", "Mem"],
        "drive": ["SSD", "NVMe", "Drive 1", "M.2 drive"],
        "regulators": ["VRM", "VRM MOS", "Voltage regulators"],
        "supply": ["PSU", "Power supply"],
        "room": ["Room", "Ambient", "Intake", "Air in", "Lab", "Inlet air"],
        "coolant": ["Coolant", "Water", "Liquid", "Loop water"],
        "box": ["Case", "Chassis", "Inside case"],
        "fan": ["Fan 1", "Front fan", "Chassis fan #2", "Fan rear"],
        "pump": ["Pump", "Loop pump"],
        "wall": ["Wall", "Socket", "Mains"],
    },
    "de": {
        "processor": ["Prozessor", "CPU", "CPU-Kern max", "Kern 0"],
        "graphics": ["Grafikkarte", "GPU", "Grafikchip"],
        "memory": ["Arbeitsspeicher", "RAM", "Speichermodul"],
        "drive": ["Festplatte", "SSD", "Laufwerk"],
        "regulators": ["Spannungswandler", "Wandler Hauptplatine"],
        "supply": ["Netzteil"],
        "room": ["Raum", "Umgebung", "Zuluft", "Raumluft", "Zimmer"],
        "coolant": ["Wasser", "Kühlmittel", "Kühlwasser"],
        "box": ["Gehäuse", "Gehäuseluft"],
        "fan": ["Lüfter 1", "Gehäuselüfter", "Lüfter vorn"],
        "pump": ["Pumpe"],
        "wall": ["Steckdose", "Netzanschluss"],
    },
    "fr": {
        "processor": ["processeur", "CPU", "coeur 0"],
        "graphics": ["carte graphique", "GPU"],
        "memory": ["mémoire", "RAM", "barrette mémoire"],
        "drive": ["disque", "SSD"],
        "regulators": ["régulateurs", "régulateur de tension"],
        "supply": ["alimentation", "bloc d'alimentation"],
        "room": ["pièce", "ambiante", "salle", "air entrant"],
        "coolant": ["eau", "liquide", "liquide de refroidissement"],
        "box": ["boîtier", "air du boîtier"],
        "fan": ["ventilateur 1", "ventilateur avant"],
        "pump": ["pompe"],
        "wall": ["prise", "prise murale"],
    },
    "es": {
        "processor": ["procesador", "CPU", "núcleo 0"],
        "graphics": ["tarjeta gráfica", "GPU"],
        "memory": ["memoria", "RAM", "módulo de memoria"],
        "drive": ["disco", "SSD", "unidad M.2"],
        "regulators": ["reguladores", "regulador de tensión"],
        "supply": ["fuente", "fuente de alimentación"],
        "room": ["habitación", "ambiente", "sala", "aire de entrada"],
        "coolant": ["agua", "refrigerante", "líquido"],
        "box": ["caja", "carcasa"],
        "fan": ["ventilador 1", "ventilador frontal"],
        "pump": ["bomba"],
        "wall": ["enchufe", "toma de pared"],
    },
    "pl": {
        "processor": ["procesora", "CPU", "rdzeń 0"],
        "graphics": ["karty graficznej", "GPU"],
        "memory": ["pamięci", "RAM", "moduł pamięci"],
        "drive": ["dysku", "SSD"],
        "regulators": ["sekcji zasilania", "regulatorów napięcia"],
        "supply": ["zasilacza"],
        "room": ["pokój", "otoczenia", "pomieszczenia"],
        "coolant": ["wody", "cieczy", "chłodziwa"],
        "box": ["obudowy", "wnętrza obudowy"],
        "fan": ["wentylator 1", "wentylator przedni"],
        "pump": ["pompa", "pompy"],
        "wall": ["gniazdko", "z gniazdka"],
    },
}
QUANTITIES = {
    "en": {
        "temperature": ["Temperature", "Temp", "temp."],
        "power": ["Power", "Watts", "Draw"],
        "load": ["Usage", "Load", "Utilization"],
        "clock": ["Clock", "Frequency"],
        "speed": ["Speed", "RPM"],
        "flow": ["Flow", "Flow rate"],
    },
    "de": {
        "temperature": ["Temperatur", "Temp"],
        "power": ["Leistung", "Leistungsaufnahme", "Verbrauch"],
        "load": ["Auslastung", "Last"],
        "clock": ["Takt", "Frequenz"],
        "speed": ["Drehzahl"],
        "flow": ["Durchfluss"],
    },
    "fr": {
        "temperature": ["Température", "Temp."],
        "power": ["Puissance", "Consommation"],
        "load": ["Charge", "Utilisation"],
        "clock": ["Fréquence"],
        "speed": ["Vitesse"],
        "flow": ["Débit"],
    },
    "es": {
        "temperature": ["Temperatura", "Temp"],
        "power": ["Potencia", "Consumo"],
        "load": ["Uso", "Carga"],
        "clock": ["Frecuencia", "Reloj"],
        "speed": ["Velocidad"],
        "flow": ["Caudal"],
    },
    "pl": {
        "temperature": ["Temperatura", "Temp"],
        "power": ["Moc", "Pobór mocy"],
        "load": ["Obciążenie", "Użycie"],
        "clock": ["Taktowanie", "Częstotliwość"],
        "speed": ["Obroty", "Prędkość"],
        "flow": ["Przepływ"],
    },
}
#: how people write a unit: text, factor and offset that the figures are written with
SPELLED = {
    "°C": [("°C", 1, 0), ("C", 1, 0), ("degC", 1, 0), ("deg C", 1, 0), ("℃", 1, 0), ("Celsius", 1, 0), ("ºC", 1, 0)],
    "°F": [("°F", 1.8, 32), ("F", 1.8, 32), ("degF", 1.8, 32), ("Fahrenheit", 1.8, 32)],
    "K": [("K", 1, 273.15), ("Kelvin", 1, 273.15)],
    "W": [("W", 1, 0), ("Watt", 1, 0), ("watts", 1, 0), ("mW", 1000, 0)],
    "%": [("%", 1, 0)],
    "MHz": [("MHz", 1, 0), ("MHz", 1, 0), ("GHz", 1e-3, 0)],
    "rpm": [("rpm", 1, 0), ("RPM", 1, 0), ("1/min", 1, 0), ("r/min", 1, 0), ("min-1", 1, 0)],
    "l/min": [("l/min", 1, 0), ("L/min", 1, 0), ("l/h", 60, 0), ("lpm", 1, 0)],
    "V": [("V", 1, 0), ("mV", 1000, 0)],
}
LOCAL_RPM = {"de": "U/min", "fr": "tr/min", "pl": "obr/min"}
OF_KIND = {"temperature": "°C", "power": "W", "load": "%", "clock": "MHz", "speed": "rpm", "flow": "l/min"}
#: ways a unit stands beside its name; None: nowhere
STANDS = ("brackets", "parentheses", "row", "blank", "comma", "slash", "in", "underscore", "cell", None)
MONTHS = {
    "en": ["Jan", "Feb", "Mar", "Apr", "May", "Jun", "Jul", "Aug", "Sep", "Oct", "Nov", "Dec"],
    "de": ["Januar", "Februar", "März", "April", "Mai", "Juni", "Juli", "August", "September", "Oktober", "November", "Dezember"],
    "fr": ["janvier", "février", "mars", "avril", "mai", "juin", "juillet", "août", "septembre", "octobre", "novembre", "décembre"],
    "es": ["enero", "febrero", "marzo", "abril", "mayo", "junio", "julio", "agosto", "septiembre", "octubre", "nov", "dic"],
    "pl": ["sty", "lut", "mar", "kwi", "maj", "cze", "lip", "sie", "wrz", "paź", "lis", "gru"],
}  # fmt: skip
CLOCK_NAMES = {
    "en": ["Time", "Timestamp", "Date/Time"],
    "de": ["Zeit", "Zeitstempel", "Datum/Uhrzeit"],
    "fr": ["Horodatage", "Heure", "Temps"],
    "es": ["Hora", "Fecha y hora", "Tiempo"],
    "pl": ["Czas", "Godzina", "Znacznik czasu"],
}
CLOCKS = (
    "iso", "day first", "month first am pm", "month name", "two-figure year", "comma ms", "no seconds", "hour", "hour am pm",
    "hour no seconds", "date and hour", "seconds", "minutes", "hours", "ms", "epoch", "epoch ms", "numbered", "none",
)  # fmt: skip
MARKS = {"en": ("yes", "no"), "de": ("ja", "nein"), "fr": ("oui", "non"), "es": ("sí", "no"), "pl": ("tak", "nie")}
LOCKED = {"en": "Fan locked", "de": "Drossel aktiv", "fr": "Bridage", "es": "Bloqueado", "pl": "Blokada"}
SUMMARIES = {
    "en": ("Minimum", "Maximum", "Average"),
    "de": ("Minimum", "Maximum", "Mittelwert"),
    "fr": ("Minimum", "Maximum", "Moyenne"),
    "es": ("Mínimo", "Máximo", "Media"),
    "pl": ("Minimum", "Maksimum", "Średnia"),
}
