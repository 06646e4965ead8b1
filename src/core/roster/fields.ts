/** What a column of a roster may hold. */
export const FIELDS = [
  ...['staff number', 'name', 'prefix', 'given', 'additional', 'family', 'suffix', 'pronouns'],
  ...['title', 'department', 'firm', 'phone', 'extension', 'mobile', 'own mobile', 'fax', 'email', 'own email'],
  ...['link', 'profile', 'street', 'postcode', 'locality', 'region', 'country', 'languages', 'licence', 'credential'],
  ...['team', 'office', 'picture', 'joins', 'leaves'],
] as const;
export type Field = (typeof FIELDS)[number];

/**
 * Headings under which personnel systems export each field, in English, German, French, Spanish, Italian, Dutch and Polish (common
 * practice, no published source). A column that may be private in such an export is read as private: a mobile whose heading does not
 * say that it is for work is the person's own, and an address only counts where it is the office's.
 */
export const HEADINGS: Record<Field, string[]> = {
  'staff number': [
    ...['staff number', 'staff no', 'staff id', 'employee number', 'employee id', 'employee no', 'emp no', 'emp id'],
    ...[
      'personnel number',
      'personnel no',
      'payroll number',
      'payroll id',
      'Personalnummer',
      'Personal-Nr.',
      'Pers.-Nr.',
    ],
    ...['Mitarbeiternummer', 'Mitarbeiter-ID', 'MA-Nr.', 'matricule', 'numéro de matricule', 'numéro d’employé'],
    ...['número de empleado', 'nº empleado', 'matricola', 'numero dipendente', 'personeelsnummer', 'numer pracownika'],
  ],
  name: [
    ...['name', 'full name', 'display name', 'employee name', 'employee', 'vollständiger Name', 'Anzeigename'],
    ...['Mitarbeiter', 'nom complet', 'nom et prénom', 'nombre completo', 'nome completo', 'volledige naam', 'naam'],
    ...['imię i nazwisko'],
  ],
  prefix: ['name prefix', 'academic title', 'akademischer Titel', 'Titel', 'titre académique', 'título académico'],
  given: [
    ...['first name', 'given name', 'forename', 'Vorname', 'Rufname', 'prénom', 'nombre', 'nome', 'voornaam', 'imię'],
  ],
  additional: ['middle name', 'middle names', 'second name', 'zweiter Vorname', 'deuxième prénom', 'segundo nombre'],
  family: [
    ...['last name', 'surname', 'family name', 'Nachname', 'Familienname', 'Zuname', 'nom', 'nom de famille'],
    ...['apellido', 'apellidos', 'cognome', 'achternaam', 'nazwisko'],
  ],
  suffix: ['suffix', 'name suffix', 'post-nominals', 'Namenszusatz'],
  pronouns: ['pronouns', 'Pronomen', 'pronoms', 'pronombres', 'pronomi'],
  title: [
    ...['job title', 'title', 'position', 'position title', 'job', 'designation', 'function', 'Funktion', 'Stelle'],
    ...['Stellenbezeichnung', 'Berufsbezeichnung', 'Tätigkeit', 'poste', 'fonction', 'intitulé du poste', 'cargo'],
    ...['puesto', 'mansione', 'qualifica', 'functie', 'functietitel', 'stanowisko'],
  ],
  department: [
    ...['department', 'dept', 'division', 'unit', 'business unit', 'Abteilung', 'Bereich', 'Organisationseinheit'],
    ...['service', 'département', 'departamento', 'reparto', 'afdeling', 'dział'],
  ],
  firm: [
    ...['company', 'company name', 'organisation', 'organization', 'employer', 'firm', 'legal entity', 'Firma'],
    ...['Unternehmen', 'Gesellschaft', 'société', 'entreprise', 'empresa', 'azienda', 'bedrijf'],
  ],
  phone: [
    ...[
      'phone',
      'telephone',
      'tel',
      'phone number',
      'telephone number',
      'work phone',
      'business phone',
      'office phone',
    ],
    ...['direct line', 'direct dial', 'Telefon', 'Telefonnummer', 'Telefon dienstlich', 'Telefon geschäftlich'],
    ...['téléphone', 'téléphone fixe', 'téléphone professionnel', 'teléfono', 'telefono', 'telefoon', 'telefoonnummer'],
  ],
  extension: ['extension', 'ext', 'Durchwahl', 'Nebenstelle', 'interno', 'poste interne', 'doorkiesnummer'],
  mobile: [
    ...['work mobile', 'business mobile', 'company mobile', 'work cell', 'mobile work', 'Diensthandy'],
    ...['Handy dienstlich', 'Mobil dienstlich', 'Mobil geschäftlich', 'mobile professionnel', 'portable professionnel'],
    ...['móvil de empresa', 'cellulare aziendale', 'zakelijk mobiel'],
  ],
  'own mobile': [
    ...[
      'own mobile',
      'mobile',
      'mobile phone',
      'mobile number',
      'cell',
      'cell phone',
      'private mobile',
      'personal mobile',
      'Mobil',
    ],
    ...[
      'Mobiltelefon',
      'Handy',
      'Handynummer',
      'Handy privat',
      'Mobil privat',
      'portable',
      'mobile personnel',
      'móvil',
    ],
    ...['cellulare', 'mobiel', 'home phone', 'private phone', 'Telefon privat', 'téléphone personnel'],
  ],
  fax: ['fax', 'fax number', 'Telefax', 'Faxnummer', 'télécopie'],
  email: [
    ...['email', 'e-mail', 'mail', 'email address', 'mail address', 'work email', 'business email', 'company email'],
    ...['E-Mail-Adresse', 'Mailadresse', 'E-Mail dienstlich', 'dienstliche E-Mail', 'courriel', 'adresse e-mail'],
    ...['correo', 'correo electrónico', 'posta elettronica', 'indirizzo e-mail', 'e-mailadres', 'adres e-mail'],
  ],
  'own email': [
    ...[
      'own email',
      'private email',
      'personal email',
      'home email',
      'E-Mail privat',
      'private E-Mail',
      'courriel personnel',
    ],
    ...['correo personal', 'e-mail personale'],
  ],
  link: ['website', 'web', 'web site', 'url', 'homepage', 'Webseite', 'site web', 'sitio web', 'sito web'],
  profile: ['profile', 'profile link', 'profile page', 'Profil', 'profil', 'perfil', 'profilo'],
  street: [
    ...['office street', 'office address', 'work address', 'work street', 'business address', 'Dienstanschrift'],
    ...[
      'Büroadresse',
      'Straße (Büro)',
      'adresse du bureau',
      'dirección de oficina',
      'indirizzo ufficio',
      'kantooradres',
    ],
  ],
  postcode: ['office postcode', 'work postcode', 'office zip', 'work zip', 'PLZ (Büro)', 'code postal du bureau'],
  locality: ['office town', 'office city', 'work city', 'work town', 'Ort (Büro)', 'ville du bureau'],
  region: ['work region', 'office region', 'office county', 'office state', 'work state'],
  country: ['office country', 'work country', 'Land (Büro)', 'pays du bureau'],
  languages: ['languages', 'spoken languages', 'Sprachen', 'langues', 'idiomas', 'lingue', 'talen', 'języki'],
  licence: [
    'licence number',
    'license number',
    'licence',
    'license',
    'Lizenz',
    'Zulassungsnummer',
    'numéro de licence',
  ],
  credential: ['credentials', 'qualifications', 'qualification', 'Qualifikation', 'diplômes', 'titulación'],
  office: [
    ...['office', 'site', 'work location', 'office location', 'location', 'workplace', 'branch', 'Standort', 'Büro'],
    ...['Dienstort', 'Arbeitsort', 'Niederlassung', 'bureau', 'site de travail', 'oficina', 'sede', 'vestiging'],
    ...['kantoor', 'biuro'],
  ],
  team: ['team', 'teams', 'group', 'Gruppe', 'équipe', 'equipo', 'squadra'],
  picture: [
    ...[
      'picture',
      'photo',
      'image',
      'picture file',
      'photo file',
      'image file',
      'Foto',
      'Bild',
      'Bilddatei',
      'Fotodatei',
    ],
    ...['fichier photo', 'archivo de foto', 'file foto'],
  ],
  joins: [
    ...[
      'joining date',
      'join date',
      'joins',
      'start date',
      'hire date',
      'date of joining',
      'Eintritt',
      'Eintrittsdatum',
    ],
    ...['date d’entrée', 'fecha de alta', 'data di assunzione', 'datum in dienst'],
  ],
  leaves: [
    ...[
      'leaving date',
      'leave date',
      'leaves',
      'end date',
      'termination date',
      'last day',
      'Austritt',
      'Austrittsdatum',
    ],
    ...['date de sortie', 'fecha de baja', 'data di cessazione', 'datum uit dienst'],
  ],
};
